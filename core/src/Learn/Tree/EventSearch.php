<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/**
 * For Gini of two classes without weights, which is most of what trees and forests do. Gini is twice the variance of 0 and 1, so the
 * gain is a matter of rows and events on each side; both are kept in one whole number, rows in the lower half, events in the upper.
 */
final readonly class EventSearch implements Search
{
    private const ROWS = 0xFFFFFFFF;

    /** @var list<int> one row, and the event */
    private array $packed;

    public function __construct(private Cells $cells, private Limits $limits)
    {
        $packed = [];
        foreach ($cells->y as $y) {
            $packed[] = 1 | (int) $y << 32;
        }
        $this->packed = $packed;
    }

    public function best(int $f, array $rows, array $counts): ?Found
    {
        $h = $this->histogram($f, $rows);
        $n = \count($rows);
        $events = (int) $counts[1];

        return null === $this->cells->levels[$f] ? $this->ordered($f, $h, $n, $events) : $this->levels($f, $h, $n, $events);
    }

    /**
     * Rows and events by code, ascending. Hot loop: one addition a row; where there are far more codes than rows, the codes that occur
     * are sorted instead, since most of a histogram would be empty.
     *
     * @param list<int> $rows
     *
     * @return array<int, int>
     */
    private function histogram(int $f, array $rows): array
    {
        $c = $this->cells->codes[$f];
        $a = $this->packed;
        $size = $this->cells->sizes[$f];
        if (12 * \count($rows) + 64 >= $size) {
            $h = array_fill(0, $size + 1, 0);
            foreach ($rows as $r) {
                $h[$c[$r]] += $a[$r];
            }

            return $h;
        }
        $keys = [];
        foreach ($rows as $r) {
            $keys[] = $c[$r] << 1 | $a[$r] >> 32;
        }
        sort($keys);
        $h = [];
        $last = -1;
        foreach ($keys as $key) {
            $code = $key >> 1;
            if ($code === $last) {
                $h[$code] += 1 | ($key & 1) << 32;
            } else {
                $h[$code] = 1 | ($key & 1) << 32;
                $last = $code;
            }
        }

        return $h;
    }

    /** @param array<int, int> $h */
    private function ordered(int $f, array $h, int $n, int $events): ?Found
    {
        $missing = $h[0] ?? 0;
        $h[0] = 0;
        $missingRows = $missing & self::ROWS;
        $missingEvents = $missing >> 32;
        $leaf = $this->limits->leaf;
        $most = $n - $leaf;
        $parent = $events * $events / $n;
        // What has to be surpassed, a little over the best so far.
        $bar = $parent;
        $best = $parent;
        $cut = $next = $before = $under = 0;
        $missingLeft = false;
        $leftRows = $leftEvents = 0;
        foreach ($h as $k => $v) {
            if (0 === $v) {
                continue;
            }
            if ($leftRows >= $leaf && $leftRows <= $most) {
                $rightEvents = $events - $leftEvents;
                $score = $leftEvents * $leftEvents / $leftRows + $rightEvents * $rightEvents / ($n - $leftRows);
                if ($score > $bar) {
                    $best = $score;
                    $bar = $parent + ($score - $parent) * (1 + self::SAME);
                    $cut = $before;
                    $next = $k;
                    $under = $leftRows;
                    $missingLeft = false;
                }
            }
            if ($missingRows > 0 && $before > 0) {
                $rows = $leftRows + $missingRows;
                if ($rows >= $leaf && $rows <= $most) {
                    $own = $leftEvents + $missingEvents;
                    $score = $own * $own / $rows + ($events - $own) ** 2 / ($n - $rows);
                    if ($score > $bar) {
                        $best = $score;
                        $bar = $parent + ($score - $parent) * (1 + self::SAME);
                        $cut = $before;
                        $next = $k;
                        $missingLeft = true;
                    }
                }
            }
            $leftRows += $v & self::ROWS;
            $leftEvents += $v >> 32;
            $before = $k;
        }
        // Whether there is a value at all may tell the most.
        if ($missingRows > 0 && $missingRows >= $leaf && $leftRows >= $leaf) {
            $score = $leftEvents * $leftEvents / $leftRows + $missingEvents * $missingEvents / $missingRows;
            if ($score > $bar) {
                $best = $score;
                $cut = \PHP_INT_MAX;
                $next = 0;
                $missingLeft = false;
            }
        }

        return 0 === $cut ? null : Found::cut($f, 2 * ($best - $parent), $cut, $next, 0 === $missingRows ? 2 * $under > $n : $missingLeft, $missingRows > 0);
    }

    /**
     * Levels in the order of their share of events: the best set is one of those in this order (Breiman et al. 1984, theorem 4.5).
     * Missing is a level like the others.
     *
     * @param array<int, int> $h
     */
    private function levels(int $f, array $h, int $n, int $events): ?Found
    {
        $means = [];
        foreach ($h as $k => $v) {
            if (0 !== $v) {
                $means[$k] = ($v >> 32) / ($v & self::ROWS);
            }
        }
        // Stable: of equal shares the smaller code is first.
        asort($means);
        $leaf = $this->limits->leaf;
        $most = $n - $leaf;
        $parent = $events * $events / $n;
        $bar = $best = $parent;
        $taken = $place = $leftRows = $leftEvents = 0;
        foreach ($means as $k => $_) {
            if ($leftRows >= $leaf && $leftRows <= $most) {
                $rightEvents = $events - $leftEvents;
                $score = $leftEvents * $leftEvents / $leftRows + $rightEvents * $rightEvents / ($n - $leftRows);
                if ($score > $bar) {
                    $best = $score;
                    $bar = $parent + ($score - $parent) * (1 + self::SAME);
                    $taken = $place;
                }
            }
            $leftRows += $h[$k] & self::ROWS;
            $leftEvents += $h[$k] >> 32;
            ++$place;
        }
        if (0 === $taken) {
            return null;
        }
        $order = array_keys($means);

        return Found::levels($f, 2 * ($best - $parent), \array_slice($order, 0, $taken), $order, array_map(static fn (int $v): int => $v & self::ROWS, $h));
    }
}
