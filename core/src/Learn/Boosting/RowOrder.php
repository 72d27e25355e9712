<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

/**
 * The rows that grow a tree, those of each node next to each other. They lie in two lists, one for nodes of even depth and one for odd:
 * dividing a node reads its stretch of one and writes the same stretch of the other, left from its beginning on, right from its end
 * backward. So no list grows, and none is made anew for a node.
 */
final class RowOrder
{
    /** @var list<int> */
    private array $even;
    /** @var list<int> */
    private array $odd;

    /** @param list<int> $rows */
    public function __construct(array $rows)
    {
        $this->even = $this->odd = $rows;
    }

    /** @param list<int> $rows as many as before, or they get lists of their own */
    public function begin(array $rows): void
    {
        $this->odd = \count($rows) === \count($this->odd) ? $this->odd : $rows;
        $this->even = $rows;
    }

    /** @return list<int> the list in which nodes of this depth have their stretches */
    public function of(int $depth): array
    {
        return 0 === ($depth & 1) ? $this->even : $this->odd;
    }

    /**
     * Hot loop without a branch on what a row holds, which could not be foreseen: each row is written to both ends of what is left, and
     * one of the two is written over.
     *
     * @param list<int> $pack codes of several columns per row
     * @param list<int> $left by code: 1 where it goes left, else 0
     *
     * @return int where the right child begins
     */
    public function part(int $depth, int $from, int $end, array $pack, int $shift, array $left): int
    {
        if (0 === ($depth & 1)) {
            $own = $this->even;
            $to = $this->odd;
            $this->odd = [];
        } else {
            $own = $this->odd;
            $to = $this->even;
            $this->even = [];
        }
        $p = $from;
        $q = $end - 1;
        for ($i = $from; $i < $end; ++$i) {
            $r = $own[$i];
            $to[$p] = $r;
            $to[$q] = $r;
            $goes = $left[$pack[$r] >> $shift & 255];
            $p += $goes;
            $q += $goes - 1;
        }
        /** @var list<int> $to */
        if (0 === ($depth & 1)) {
            $this->odd = $to;
        } else {
            $this->even = $to;
        }

        return $p;
    }
}
