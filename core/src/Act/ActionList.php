<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/**
 * Scored records ordered by what acting on them is expected to return, not by chance. Equal ones are told apart by key, then by a hash of
 * the record, so that the list is the same whatever the order of the rows. Definition: docs/methods/action-list.md (decision 55).
 */
final readonly class ActionList
{
    private const BINS = 4096;

    /**
     * @param list<float> $returns expected of each; NAN where it cannot be told
     * @param list<int>   $order   rows that have one, highest first
     * @param int         $paying  so many of the order are expected to return more than nothing
     */
    private function __construct(public Terms $terms, public array $returns, public array $order, public int $paying)
    {
    }

    /** @param ?\Closure(int): string $tie tells equal ones apart; null = the earlier row first */
    public static function of(Terms $terms, ?\Closure $tie = null): self
    {
        $returns = $terms->returns();
        $known = array_filter($returns, static fn (float $r): bool => !is_nan($r));
        arsort($known, \SORT_NUMERIC);
        /** @var list<int> $order */
        $order = array_keys($known);
        $n = null === $tie ? 0 : \count($order);
        for ($from = 0; $from < $n; $from = $to) {
            for ($to = $from + 1; $to < $n && $returns[$order[$to]] === $returns[$order[$from]]; ++$to) {
            }
            if ($to - $from > 1) {
                $same = [];
                for ($k = $from; $k < $to; ++$k) {
                    $same[$order[$k]] = $tie($order[$k]);
                }
                asort($same, \SORT_STRING);
                foreach (array_keys($same) as $k => $row) {
                    $order[$from + $k] = $row;
                }
            }
        }

        return new self($terms, $returns, array_values($order), \count(array_filter($known, static fn (float $r): bool => $r > 0.0)));
    }

    /**
     * An order that was found before, under the same terms.
     *
     * @param list<int> $order
     */
    public static function inOrder(Terms $terms, array $order): self
    {
        $returns = $terms->returns();

        return new self($terms, $returns, $order, \count(array_filter($returns, static fn (float $r): bool => $r > 0.0)));
    }

    /**
     * How many would pay, how many of them be acted on, and what that would return: without an order where none is needed.
     *
     * @return array{int, int, float}
     */
    public static function outlook(Terms $terms, Capacity $capacity): array
    {
        if (null !== $capacity->each) {
            $list = self::of($terms);
            $rows = $list->chosen($capacity);

            return [$list->paying, \count($rows), array_sum(array_map(static fn (int $r): float => $list->returns[$r], $rows))];
        }
        $paying = array_values(array_filter($terms->returns(), static fn (float $r): bool => $r > 0.0));
        $count = \count($paying);
        if (null !== $capacity->most && $count > $capacity->most) {
            $paying = self::highest($paying, $capacity->most);
        }

        return [$count, \count($paying), (float) array_sum($paying)];
    }

    /**
     * The highest of many, in order: only those that may be among them are sorted.
     *
     * @param list<float> $returns above 0
     *
     * @return list<float>
     */
    private static function highest(array $returns, int $most): array
    {
        $scale = (self::BINS - 1) / max([1e-300, ...$returns]);
        $bins = array_fill(0, self::BINS, 0);
        foreach ($returns as $r) {
            ++$bins[(int) ($scale * $r)];
        }
        $bin = self::BINS;
        for ($above = 0; $above < $most && $bin > 0; $above += $bins[$bin]) {
            --$bin;
        }
        $own = array_values(array_filter($returns, static fn (float $r): bool => (int) ($scale * $r) >= $bin));
        rsort($own, \SORT_NUMERIC);

        return \array_slice($own, 0, $most);
    }

    /** @return list<int> those that are expected to pay, best first */
    public function worthwhile(): array
    {
        return \array_slice($this->order, 0, $this->paying);
    }

    /** @return list<int> those to act on: expected to pay, and within capacity */
    public function chosen(Capacity $capacity): array
    {
        return $capacity->fit($this->worthwhile());
    }

    /**
     * Expected return in all of the first so many.
     *
     * @return list<float> from none on
     */
    public function sums(): array
    {
        $sums = [0.0];
        $sum = 0.0;
        foreach ($this->order as $row) {
            $sums[] = $sum += $this->returns[$row];
        }

        return $sums;
    }

    /** The most of the order, from its first on, that together do not lose. */
    public function deepest(): int
    {
        $deepest = 0;
        foreach ($this->sums() as $k => $sum) {
            if ($sum >= 0.0) {
                $deepest = $k;
            }
        }

        return $deepest;
    }

    /**
     * Where all from a chance on are acted on: the chance at which that returns most, of equal ones the higher.
     *
     * @param list<float> $chances of all records
     * @param ?list<int>  $highest rows with the highest chance first, where that order is known already
     *
     * @return array{cutoff: ?float, rows: list<int>} null where acting on nobody is best
     */
    public function bestCutOff(array $chances, ?array $highest = null): array
    {
        if (null === $highest) {
            $own = [];
            foreach ($this->order as $row) {
                $own[$row] = $chances[$row];
            }
            arsort($own, \SORT_NUMERIC);
            $by = array_keys($own);
        } else {
            $by = array_values(array_filter($highest, fn (int $row): bool => !is_nan($this->returns[$row])));
        }
        $sum = $best = 0.0;
        $end = 0;
        foreach ($by as $place => $row) {
            $sum += $this->returns[$row];
            $isLast = !isset($by[$place + 1]) || $chances[$by[$place + 1]] !== $chances[$row];
            if ($isLast && $sum > $best) {
                [$best, $end] = [$sum, $place + 1];
            }
        }

        return ['cutoff' => 0 === $end ? null : $chances[$by[$end - 1]], 'rows' => \array_slice($by, 0, $end)];
    }
}
