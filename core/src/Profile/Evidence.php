<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/**
 * Weight of evidence of each level for an event, and the information value of all. Half a record is added to each cell, so that a level
 * without an event has a weight too. Formula: docs/methods/preparation.md.
 */
final readonly class Evidence
{
    /**
     * @param list<array{level: string, n: int, events: int, non_events: int, woe: float, iv: float}> $levels     in byte order
     * @param ?float                                                                                  $unsmoothed null when a cell is empty
     */
    private function __construct(public array $levels, public float $value, public ?float $unsmoothed)
    {
    }

    /**
     * @param array<array-key, array{int, int}> $counts events and others by level; levels without a record are left out
     */
    public static function of(array $counts): self
    {
        $counts = array_filter($counts, static fn (array $c) => $c[0] + $c[1] > 0);
        ksort($counts, \SORT_STRING);
        $k = \count($counts);
        $events = array_sum(array_column($counts, 0));
        $others = array_sum(array_column($counts, 1));
        $levels = [];
        $value = 0.0;
        $bare = 0.0;
        foreach ($counts as $level => [$e, $o]) {
            $pe = ($e + 0.5) / ($events + 0.5 * $k);
            $po = ($o + 0.5) / ($others + 0.5 * $k);
            $woe = log($pe / $po);
            $iv = ($pe - $po) * $woe;
            $value += $iv;
            $bare = null === $bare || 0 === $e || 0 === $o ? null : $bare + ($e / $events - $o / $others) * log($e * $others / ($events * $o));
            $levels[] = ['level' => (string) $level, 'n' => $e + $o, 'events' => $e, 'non_events' => $o, 'woe' => $woe, 'iv' => $iv];
        }

        return new self($levels, $value, $bare);
    }
}
