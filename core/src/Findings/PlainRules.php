<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/**
 * Groups of one or two conditions in which the event is unusually frequent or rare. They are looked for on one half of the judged
 * records and checked on the other; one that does not hold there is kept and said to have fallen. Definition: docs/methods/plain-rules.md.
 */
final class PlainRules
{
    private const LEAST = 60;
    private const LEAST_SHARE = 0.02;
    private const MOST = 7;
    private const FIRST = 60;
    /** A second condition must tell so many times as much as either alone, or it is idle. */
    private const WORTH = 1.15;

    /**
     * @return list<PlainRule> the most telling first
     */
    public static function of(Subject $subject): array
    {
        $event = $subject->event;
        if (null === $event) {
            return [];
        }
        [$search, $check] = self::halves($event);
        $least = max(self::LEAST, (int) ceil(self::LEAST_SHARE * \count($search)));
        $hits = self::hits($search, $event);
        if (\count($search) < 4 * $least || $hits < 20 || \count($search) - $hits < 20) {
            return [];
        }
        $atoms = [];
        foreach ($subject->table->columns() as $name => $column) {
            if ($subject->mayTell((string) $name)) {
                array_push($atoms, ...self::conditions((string) $name, $column, $search));
            }
        }
        $overall = $hits / \count($search);
        $scored = [];
        foreach ($atoms as $i => $atom) {
            $rows = array_values(array_filter($search, static fn (int $row) => $atom['rows'][$row] ?? false));
            if (\count($rows) >= $least && \count($rows) <= 0.9 * \count($search)) {
                $scored[] = [[$i], $rows, self::telling($rows, $event, $overall)];
            }
        }
        usort($scored, static fn (array $a, array $b) => $b[2] <=> $a[2]);
        $single = $scored;
        $alone = [];
        foreach ($single as [$parts, , $telling]) {
            $alone[$parts[0]] = $telling;
        }
        $seen = [];
        foreach (\array_slice($single, 0, self::FIRST) as [$first, $rows]) {
            foreach ($single as [$second]) {
                $i = $first[0];
                $j = $second[0];
                if ($atoms[$i]['column'] === $atoms[$j]['column'] || isset($seen[$key = min($i, $j).'.'.max($i, $j)])) {
                    continue;
                }
                $seen[$key] = true;
                $holds = $atoms[$j]['rows'];
                $both = array_values(array_filter($rows, static fn (int $row) => $holds[$row] ?? false));
                $telling = \count($both) >= $least ? self::telling($both, $event, $overall) : 0.0;
                if ($telling >= self::WORTH * max($alone[$i], $alone[$j])) {
                    $scored[] = [[$i, $j], $both, $telling];
                }
            }
        }
        usort($scored, static fn (array $a, array $b) => $b[2] <=> $a[2] ?: \count($a[0]) <=> \count($b[0]));

        return self::checked(self::different($scored), $atoms, $search, $check, $event);
    }

    /**
     * Every other record of either kind.
     *
     * @param list<float> $event
     *
     * @return array{list<int>, list<int>}
     */
    private static function halves(array $event): array
    {
        $halves = [[], []];
        $counts = [0, 0];
        foreach ($event as $row => $e) {
            if ($e === $e) {
                $halves[$counts[$e > 0.5 ? 1 : 0]++ & 1][] = $row;
            }
        }

        return $halves;
    }

    /**
     * What may be said about one column: each frequent level, and of numbers "up to" and "above" each fifth.
     *
     * @param list<int> $search
     *
     * @return list<array{column: string, is: string, rows: array<int, true>}>
     */
    private static function conditions(string $name, Column $column, array $search): array
    {
        $out = [];
        if ($column instanceof CodedColumn) {
            $counts = $column->counts($search);
            arsort($counts);
            foreach (\array_slice(array_keys(array_filter($counts)), 0, 20) as $code) {
                $rows = [];
                foreach ($column->codes as $row => $c) {
                    if ($c === $code) {
                        $rows[$row] = true;
                    }
                }
                $out[] = ['column' => $name, 'is' => $column->levels[$code], 'rows' => $rows];
            }

            return $out;
        }
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            return [];
        }
        $values = $column instanceof NumberColumn ? $column->values : array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds);
        $write = static fn (float $v): string => $column instanceof DateColumn ? DateColumn::write((int) floor($v / DateColumn::DAY) * DateColumn::DAY) : Words::number($v);
        foreach (QuantileBins::spoken(array_map(static fn (int $row) => $values[$row], $search), 8) as $edge) {
            $low = $high = [];
            foreach ($values as $row => $v) {
                if ($v <= $edge) {
                    $low[$row] = true;
                } elseif ($v > $edge) {
                    $high[$row] = true;
                }
            }
            $out[] = ['column' => $name, 'is' => 'up to '.$write($edge), 'rows' => $low];
            $out[] = ['column' => $name, 'is' => 'over '.$write($edge), 'rows' => $high];
        }

        return $out;
    }

    /**
     * How far a group's share of events lies from the whole, in standard errors of the whole: large groups and large differences count.
     *
     * @param list<int>   $rows
     * @param list<float> $event
     */
    private static function telling(array $rows, array $event, float $overall): float
    {
        $n = \count($rows);

        return abs(self::hits($rows, $event) / $n - $overall) * sqrt($n);
    }

    /**
     * @param list<int>   $rows
     * @param list<float> $event
     */
    private static function hits(array $rows, array $event): int
    {
        $hits = 0;
        foreach ($rows as $row) {
            $hits += $event[$row] > 0.5 ? 1 : 0;
        }

        return $hits;
    }

    /**
     * The best ones that are not nearly the same group as a better one.
     *
     * @param list<array{list<int>, list<int>, float}> $scored best first
     *
     * @return list<list<int>>
     */
    private static function different(array $scored): array
    {
        $kept = $sets = [];
        foreach ($scored as [$parts, $rows]) {
            $set = array_fill_keys($rows, true);
            foreach ($sets as $other) {
                $common = \count(array_intersect_key($set, $other));
                if ($common > 0.6 * (\count($set) + \count($other) - $common) || $common > 0.85 * min(\count($set), \count($other))) {
                    continue 2;
                }
            }
            $kept[] = $parts;
            $sets[] = $set;
            if (self::MOST === \count($kept)) {
                break;
            }
        }

        return $kept;
    }

    /**
     * @param list<list<int>>                                                 $rules
     * @param list<array{column: string, is: string, rows: array<int, true>}> $atoms
     * @param list<int>                                                       $search
     * @param list<int>                                                       $check
     * @param list<float>                                                     $event
     *
     * @return list<PlainRule>
     */
    private static function checked(array $rules, array $atoms, array $search, array $check, array $event): array
    {
        $overall = self::hits($check, $event) / max(1, \count($check));
        $out = [];
        foreach ($rules as $parts) {
            $holds = static function (int $row) use ($parts, $atoms): bool {
                foreach ($parts as $i) {
                    if (!isset($atoms[$i]['rows'][$row])) {
                        return false;
                    }
                }

                return true;
            };
            $there = array_values(array_filter($search, $holds));
            $here = array_values(array_filter($check, $holds));
            $found = Interval::wilson(self::hits($there, $event), \count($there));
            $again = Interval::wilson(self::hits($here, $event), \count($here));
            $more = ($found->value ?? 0.0) > $overall;
            $held = null !== $again->low && null !== $again->high && ($more ? $again->low > $overall : $again->high < $overall);
            $out[] = new PlainRule(array_map(static fn (int $i) => ['column' => $atoms[$i]['column'], 'is' => $atoms[$i]['is']], $parts), \count($there), $found, \count($here), $again, $overall, $held);
        }

        return $out;
    }
}
