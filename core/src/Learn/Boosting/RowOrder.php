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
     * Hot loop: codes up to a cut, or in a set, go left.
     *
     * @param list<int>   $pack  codes of five columns per row
     * @param ?list<bool> $in    by code, whether it goes left; null where the cut tells
     * @param int         $least the least code that goes left
     *
     * @return int where the right child begins
     */
    public function part(int $depth, int $from, int $end, array $pack, int $shift, ?array $in, int $cut, int $least): int
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
        if (null !== $in) {
            for ($i = $from; $i < $end; ++$i) {
                $r = $own[$i];
                if ($in[$pack[$r] >> $shift & 255]) {
                    $to[$p++] = $r;
                } else {
                    $to[$q--] = $r;
                }
            }
        } else {
            // What is missing has code 0: one less is larger than any cut.
            $cut -= $least;
            for ($i = $from; $i < $end; ++$i) {
                $r = $own[$i];
                if ((($pack[$r] >> $shift & 255) - $least & 0xFFFF) <= $cut) {
                    $to[$p++] = $r;
                } else {
                    $to[$q--] = $r;
                }
            }
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
