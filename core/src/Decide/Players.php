<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

/**
 * Among whom an answer is shared out: columns as they came. What is made of two or three of them is one player and is named so; where more
 * hang together each is a player of its own, explained through the preparation. Definition: docs/methods/accounts.md.
 */
final class Players
{
    /** So many columns are one player at most. */
    private const MOST = 3;

    /**
     * @param list<string> $names columns as they came
     *
     * @return list<non-empty-list<string>> each column in one of them, in the order of their first
     */
    public static function of(ScoringModel $model, array $names): array
    {
        $group = array_combine($names, $names);
        foreach ($model->model->columns() as $column) {
            $of = array_values(array_intersect(array_unique($model->preparation->asks([$column])), $names));
            if (\count($of) > self::MOST) {
                continue;
            }
            foreach (\array_slice($of, 1) as $other) {
                [$from, $to] = [$group[$other], $group[$of[0]]];
                $group = array_map(static fn (string $g): string => $g === $from ? $to : $g, $group);
            }
        }
        $players = [];
        foreach ($names as $name) {
            $together = array_map(strval(...), array_keys($group, $group[$name], true));
            if (\count($together) > self::MOST) {
                $players[] = [$name];
            } elseif ($together[0] === $name) {
                $players[] = $together;
            }
        }

        return $players;
    }

    /** @param non-empty-list<string> $columns */
    public static function named(array $columns): string
    {
        return implode(' and ', $columns);
    }
}
