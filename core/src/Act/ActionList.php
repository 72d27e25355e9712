<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/**
 * Scored records ordered by what acting on them is expected to return, not by chance. Equal ones are told apart by key, then by a hash of
 * the
 * record, so that the list is the same whatever the order of the rows. Definition: docs/methods/action-list.md (decision 55).
 */
final readonly class ActionList
{
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
                array_splice($order, $from, $to - $from, array_keys($same));
            }
        }

        return new self($terms, $returns, $order, \count(array_filter($known, static fn (float $r): bool => $r > 0.0)));
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
            rsort($paying, \SORT_NUMERIC);
            $paying = \array_slice($paying, 0, $capacity->most);
        }

        return [$count, \count($paying), (float) array_sum($paying)];
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
     *
     * @return array{cutoff: ?float, rows: list<int>} null where acting on nobody is best
     */
    public function bestCutOff(array $chances): array
    {
        $own = [];
        foreach ($this->order as $row) {
            $own[$row] = $chances[$row];
        }
        arsort($own, \SORT_NUMERIC);
        $by = array_keys($own);
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
