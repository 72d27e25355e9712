<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Table\Kind;

/** How the columns that a model asks for are found in a table of new records, and what is wrong, said before anything runs. */
final class ColumnMatch
{
    /**
     * A line per column the model asks for; how says by name, by likeness or by hand.
     *
     * @param array<array-key, Kind> $asked column => kind at training
     * @param array<array-key, Kind> $found columns of the new table
     * @param array<string, string>  $hand  asked => found, set by the analyst
     *
     * @return list<array{asked: string, kind: string, found: ?string, foundKind: ?string, how: string, problem: ?string}>
     */
    public static function of(array $asked, array $found, array $hand = []): array
    {
        $folded = [];
        // Names made of digits become integers as array keys.
        foreach (array_map(strval(...), array_keys($found)) as $name) {
            $folded[self::fold($name)] ??= $name;
        }
        $lines = [];
        foreach ($asked as $name => $kind) {
            $name = (string) $name;
            [$match, $how] = match (true) {
                isset($hand[$name], $found[$hand[$name]]) => [$hand[$name], 'by hand'],
                isset($found[$name]) => [$name, 'by name'],
                isset($folded[self::fold($name)]) => [$folded[self::fold($name)], 'by a similar name'],
                default => [null, 'not there'],
            };
            $problem = null;
            if (null === $match) {
                $problem = \sprintf('%s is not in this table: choose the column that holds it, or its cells count as missing.', $name);
            } elseif (!self::fits($kind, $found[$match])) {
                $problem = \sprintf('%s was %s at training and is %s here; cells that are not %s count as missing.', $name, $kind->value, $found[$match]->value, $kind->value);
            }
            $lines[] = ['asked' => $name, 'kind' => $kind->value, 'found' => $match, 'foundKind' => null === $match ? null : $found[$match]->value, 'how' => $how, 'problem' => $problem];
        }

        return $lines;
    }

    private static function fits(Kind $asked, Kind $found): bool
    {
        return $asked === $found || !\in_array($asked, [Kind::Number, Kind::Date], true);
    }

    private static function fold(string $name): string
    {
        return (string) preg_replace('/[^a-z0-9]/', '', strtolower($name));
    }
}
