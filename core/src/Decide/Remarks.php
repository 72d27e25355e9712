<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

/** What is said of new records before they are scored. */
final class Remarks
{
    /** @param array{column: string, values: list<string>, rows: int} $unseen as ScoringModel::unseen() gives it */
    public static function unseen(array $unseen): string
    {
        $many = \count($unseen['values']);

        return \sprintf('%s has %s never seen in training: %s%s (%s %s). They are scored as if they were none of the known ones.', $unseen['column'], 1 === $many ? 'a value' : $many.' values', implode(', ', \array_slice($unseen['values'], 0, 4)), $many > 4 ? ', …' : '', number_format($unseen['rows']), 1 === $unseen['rows'] ? 'record' : 'records');
    }

    /**
     * @param array<array-key, array<array-key, string>> $spellings as ScoringModel::spellings() gives them
     *
     * @return list<string> a sentence per column that was written otherwise
     */
    public static function spelled(array $spellings): array
    {
        $says = [];
        foreach ($spellings as $column => $as) {
            $pairs = array_map(static fn (int|string $written, string $read): string => \sprintf('"%s" as "%s"', $written, $read), array_keys(\array_slice($as, 0, 4, true)), \array_slice($as, 0, 4));
            $says[] = \sprintf('%s is written otherwise than in training and is read as the known value: %s%s.', $column, implode(', ', $pairs), \count($as) > 4 ? ', …' : '');
        }

        return $says;
    }
}
