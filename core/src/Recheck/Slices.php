<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** Newer records by a label: a month, a group. */
final class Slices
{
    private const MOST = 24;

    /**
     * @param list<?string> $labels per record
     *
     * @return list<array{label: string, rows: int, figure: array<string, ?float>, promised: ?float, came: array<string, ?float>}> in the
     *                                                                                                                             order of
     *                                                                                                                             labels
     */
    public static function of(Judged $now, array $labels, Figure $figure): array
    {
        $by = [];
        foreach ($labels as $row => $label) {
            if (null !== $label && is_finite($now->outcome[$row]) && $now->answers->isKnown($row)) {
                $by[$label][] = $row;
            }
        }
        ksort($by, \SORT_STRING);
        $out = [];
        foreach (\array_slice($by, 0, self::MOST, true) as $label => $rows) {
            $some = $now->some($rows);
            $sample = $some->sample();
            $first = array_map(static fn (int $row): float => $now->answers->first($row), $rows);
            $out[] = [
                'label' => (string) $label,
                'rows' => \count($rows),
                'figure' => (null === $sample ? null : $figure->interval($sample))?->toArray() ?? [
                    'value' => null,
                    'low' => null,
                    'high' => null,
                ],
                'promised' => Task::MORE === $now->task ? null : array_sum($first) / \count($first),
                'came' => (match ($now->task) {
                    Task::TWO => Interval::wilson((float) array_sum($some->outcome), (float) \count($rows)),
                    Task::NUMBER => Interval::mean($some->outcome),
                    default => new Interval(null),
                })->toArray(),
            ];
        }

        return $out;
    }

    /**
     * Chances and what came of them, in as many groups as there are records for.
     *
     * @return list<array{chance: float, rows: int, came: array<string, ?float>}>
     */
    public static function calibration(Judged $of): array
    {
        $known = $of->known();
        if (Task::TWO !== $of->task || 0 === $known->rows()) {
            return [];
        }
        $order = $known->answers->values;
        asort($order);
        $rows = array_keys($order);
        $groups = max(1, min(10, intdiv(\count($rows), 60)));
        $out = [];
        foreach (array_chunk($rows, max(1, (int) ceil(\count($rows) / $groups))) as $part) {
            $events = array_sum(array_map(static fn (int $row): float => $known->outcome[$row], $part));
            $out[] = [
                'chance' => array_sum(array_map(static fn (int $row): float => $known->answers->first($row), $part)) / \count($part),
                'rows' => \count($part),
                'came' => Interval::wilson($events, (float) \count($part))->toArray(),
            ];
        }

        return $out;
    }
}
