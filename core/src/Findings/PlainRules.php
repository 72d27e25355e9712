<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Findings\Outcome\Outcome;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/**
 * Groups of one or two conditions in which the event (or a class) is unusually frequent or rare, or a number unusually high or low. They are looked for on one half of the judged
 * records and checked on the other; one that does not hold there is kept and said to have fallen. Definition: docs/methods/plain-rules.md.
 */
final class PlainRules
{
    private const LEAST = 60;
    private const LEAST_SHARE = 0.02;
    private const MOST = 7;
    private const FIRST = 60;
    /** Conditions that others are joined with: those of some 200 columns, above that the most telling. */
    private const KEPT = 3000;
    /** A second condition must tell so many times as much as either alone, or it is idle. */
    private const WORTH = 1.15;

    /**
     * @return list<PlainRule> the most telling first
     */
    public static function of(Subject $subject): array
    {
        $outcome = $subject->outcome;
        $halves = $outcome?->halves();
        if (null === $outcome || null === $halves) {
            return [];
        }
        [$search, $check] = $halves;
        $least = max(self::LEAST, (int) ceil(self::LEAST_SHARE * \count($search)));
        $spreads = $outcome->spreads($search);
        if (\count($search) < 4 * $least || [] === array_filter($spreads, static fn (?float $s): bool => null !== $s)) {
            return [];
        }
        $overall = array_map(static fn (float $sum): float => $sum / \count($search), $outcome->sums($search));
        $atoms = $scored = $alone = [];
        $next = 0;
        foreach ($subject->table->columns() as $name => $column) {
            foreach ($subject->mayTell((string) $name) ? self::conditions((string) $name, $column, $search) : [] as $atom) {
                $rows = self::among($search, $atom['rows']);
                if (\count($rows) >= $least && \count($rows) <= 0.9 * \count($search)) {
                    $each = self::telling($outcome->sums($rows), \count($rows), $overall, $spreads);
                    $scored[] = [[$next], $rows, max($each), self::most($each)];
                    $alone[$next] = $each;
                    $atoms[$next++] = $atom;
                }
            }
            if (\count($scored) > 2 * self::KEPT) {
                $scored = self::best($scored);
                $kept = array_fill_keys(array_map(static fn (array $s): int => $s[0][0], $scored), true);
                $atoms = array_intersect_key($atoms, $kept);
            }
        }
        $single = $scored = self::best($scored);
        $seen = [];
        foreach (\array_slice($single, 0, self::FIRST) as [$first, $rows]) {
            foreach ($single as [$second]) {
                $i = $first[0];
                $j = $second[0];
                if ($atoms[$i]['column'] === $atoms[$j]['column'] || isset($seen[$key = min($i, $j).'.'.max($i, $j)])) {
                    continue;
                }
                $seen[$key] = true;
                $both = self::among($rows, $atoms[$j]['rows']);
                if (\count($both) < $least) {
                    continue;
                }
                $each = self::telling($outcome->sums($both), \count($both), $overall, $spreads);
                $facet = self::most($each);
                if ($each[$facet] >= self::WORTH * max($alone[$i][$facet], $alone[$j][$facet])) {
                    $scored[] = [[$i, $j], $both, $each[$facet], $facet];
                }
            }
        }
        usort($scored, static fn (array $a, array $b) => $b[2] <=> $a[2] ?: \count($a[0]) <=> \count($b[0]));

        return self::checked(self::different($scored), $atoms, $search, $check, $outcome);
    }

    /**
     * Of very many columns' conditions the most telling ones: each holds its rows, and of 2,000 columns they took three gigabytes.
     *
     * @template T of array{list<int>, list<int>, float, int}
     *
     * @param list<T> $scored
     *
     * @return list<T>
     */
    private static function best(array $scored): array
    {
        usort($scored, static fn (array $a, array $b) => $b[2] <=> $a[2]);

        return \array_slice($scored, 0, self::KEPT);
    }

    /**
     * A plain loop: thousands of pairs are gone through.
     *
     * @param list<int>        $rows
     * @param array<int, true> $holds
     *
     * @return list<int> those in which it holds
     */
    private static function among(array $rows, array $holds): array
    {
        $out = [];
        foreach ($rows as $row) {
            if (isset($holds[$row])) {
                $out[] = $row;
            }
        }

        return $out;
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
     * How far a group's mean lies from the whole's, in standard errors of the whole: large groups and large differences count.
     *
     * @param non-empty-list<float>  $sums    per facet
     * @param list<float>            $overall
     * @param non-empty-list<?float> $spreads
     *
     * @return non-empty-list<float>
     */
    private static function telling(array $sums, int $n, array $overall, array $spreads): array
    {
        return array_map(static fn (float $sum, float $whole, ?float $spread): float => null === $spread ? 0.0 : abs($sum / $n - $whole) * sqrt($n) / $spread, $sums, $overall, $spreads);
    }

    /** @param non-empty-list<float> $telling */
    private static function most(array $telling): int
    {
        return (int) array_search(max($telling), $telling, true);
    }

    /**
     * The best ones that are not nearly the same group as a better one.
     *
     * @param list<array{list<int>, list<int>, float, int}> $scored best first
     *
     * @return list<array{list<int>, int}> conditions, and the facet they tell about
     */
    private static function different(array $scored): array
    {
        $kept = $sets = [];
        foreach ($scored as [$parts, $rows, , $facet]) {
            $set = array_fill_keys($rows, true);
            foreach ($sets as $other) {
                $common = \count(array_intersect_key($set, $other));
                if ($common > 0.6 * (\count($set) + \count($other) - $common) || $common > 0.85 * min(\count($set), \count($other))) {
                    continue 2;
                }
            }
            $kept[] = [$parts, $facet];
            $sets[] = $set;
            if (self::MOST === \count($kept)) {
                break;
            }
        }

        return $kept;
    }

    /**
     * @param list<array{list<int>, int}>                                           $rules
     * @param array<int, array{column: string, is: string, rows: array<int, true>}> $atoms
     * @param list<int>                                                             $search
     * @param list<int>                                                             $check
     *
     * @return list<PlainRule>
     */
    private static function checked(array $rules, array $atoms, array $search, array $check, Outcome $outcome): array
    {
        $sums = $outcome->sums($check);
        $out = [];
        foreach ($rules as [$parts, $facet]) {
            $overall = $sums[$facet] / max(1, \count($check));
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
            $found = $outcome->mean($facet, $there);
            $again = $outcome->mean($facet, $here);
            $more = ($found->value ?? 0.0) > $overall;
            $held = null !== $again->low && null !== $again->high && ($more ? $again->low > $overall : $again->high < $overall);
            $out[] = new PlainRule(array_map(static fn (int $i) => ['column' => $atoms[$i]['column'], 'is' => $atoms[$i]['is']], $parts), $outcome->facets()[$facet], \count($there), $found, \count($here), $again, $overall, $held);
        }

        return $out;
    }
}
