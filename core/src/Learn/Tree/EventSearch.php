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
    /** Rows in a leaf, at least. */
    private int $leaf;

    public function __construct(private Cells $cells, Limits $limits)
    {
        $this->leaf = max(1, (int) ceil($limits->leaf));
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

    /**
     * Hot loop: of n rows with s events the gain of a cut with n_l and s_l on the left is 2 (n s_l − s n_l)² / (n n_l n_r), one division.
     *
     * @param array<int, int> $h
     */
    private function ordered(int $f, array $h, int $n, int $events): ?Found
    {
        if (0 !== ($h[0] ?? 0)) {
            return $this->withMissing($f, $h, $n, $events);
        }
        $leaf = $this->leaf;
        $most = $n - $leaf;
        // What has to be surpassed, a little over the best so far.
        $bar = $best = 0.0;
        $cut = $next = $before = $under = $rows = $own = 0;
        foreach ($h as $k => $v) {
            if (0 === $v) {
                continue;
            }
            if ($rows >= $leaf) {
                if ($rows > $most) {
                    break;
                }
                $d = (float) ($n * $own - $events * $rows);
                $score = $d * $d / (float) ($rows * ($n - $rows));
                if ($score > $bar) {
                    $best = $score;
                    $bar = $score * (1 + self::SAME);
                    $cut = $before;
                    $next = $k;
                    $under = $rows;
                }
            }
            $rows += $v & self::ROWS;
            $own += $v >> 32;
            $before = $k;
        }

        return 0 === $cut ? null : Found::cut($f, 2 * $best / $n, $cut, $next, 2 * $under > $n, false);
    }

    /**
     * The same where some rows have no value: they go to the side where the gain is larger.
     *
     * @param array<int, int> $h
     */
    private function withMissing(int $f, array $h, int $n, int $events): ?Found
    {
        $missingRows = $h[0] & self::ROWS;
        $missingEvents = $h[0] >> 32;
        $h[0] = 0;
        $most = $n - $this->leaf;
        $bar = $best = 0.0;
        $cut = $next = $before = $rows = $own = 0;
        $missingLeft = false;
        foreach ($h as $k => $v) {
            if (0 === $v) {
                continue;
            }
            foreach ($before > 0 ? [false, true] : [] as $with) {
                $leftRows = $with ? $rows + $missingRows : $rows;
                if ($leftRows < $this->leaf || $leftRows > $most) {
                    continue;
                }
                $d = (float) ($n * ($with ? $own + $missingEvents : $own) - $events * $leftRows);
                $score = $d * $d / (float) ($leftRows * ($n - $leftRows));
                if ($score > $bar) {
                    $best = $score;
                    $bar = $score * (1 + self::SAME);
                    $cut = $before;
                    $next = $k;
                    $missingLeft = $with;
                }
            }
            $rows += $v & self::ROWS;
            $own += $v >> 32;
            $before = $k;
        }
        // Whether there is a value at all may tell the most.
        if ($missingRows >= $this->leaf && $rows >= $this->leaf) {
            $d = (float) ($n * $own - $events * $rows);
            $score = $d * $d / (float) ($rows * $missingRows);
            if ($score > $bar) {
                $best = $score;
                $cut = \PHP_INT_MAX;
                $next = 0;
                $missingLeft = false;
            }
        }

        return 0 === $cut ? null : Found::cut($f, 2 * $best / $n, $cut, $next, $missingLeft, true);
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
        $most = $n - $this->leaf;
        $bar = $best = 0.0;
        $taken = $place = $rows = $own = 0;
        foreach ($means as $k => $_) {
            if ($rows >= $this->leaf && $rows <= $most) {
                $d = (float) ($n * $own - $events * $rows);
                $score = $d * $d / (float) ($rows * ($n - $rows));
                if ($score > $bar) {
                    $best = $score;
                    $bar = $score * (1 + self::SAME);
                    $taken = $place;
                }
            }
            $rows += $h[$k] & self::ROWS;
            $own += $h[$k] >> 32;
            ++$place;
        }
        if (0 === $taken) {
            return null;
        }
        $order = array_keys($means);

        return Found::levels($f, 2 * $best / $n, \array_slice($order, 0, $taken), $order, array_map(static fn (int $v): int => $v & self::ROWS, $h));
    }
}
