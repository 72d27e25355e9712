<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Forest;

use Dokimos\Core\Learn\Tree\Grove;

/** What trees say of rows that they were not grown on: an honest error without a fold. */
final class OutOfBag
{
    private const POINTS = 40;
    /** Enough rows to draw the curve; of more, every so-manieth is asked. */
    private const MOST = 20_000;

    /** @var list<int> */
    private array $asked = [];
    /** @var array<int, array<int, float>> per value of a leaf, one sum per asked row */
    private array $sums = [];
    /** @var array<int, int> */
    private array $times = [];
    /** @var list<array{trees: int, out_of_bag: float}> */
    private array $curve = [];
    private int $next = 1;

    /** @param list<int|float> $y */
    public function __construct(private readonly array $y, private readonly int $classes, private readonly int $width)
    {
        $step = max(1, intdiv(\count($y), self::MOST));
        for ($i = 0, $n = \count($y); $i < $n; $i += $step) {
            $this->asked[] = $i;
        }
        $zeros = array_values(array_fill(0, \count($this->asked), 0.0));
        $this->sums = array_fill(0, $width, $zeros);
        $this->times = array_values(array_fill(0, \count($this->asked), 0));
    }

    /**
     * @param int             $tree  its place in the grove; the first is no tree but the mean of all rows
     * @param list<list<int>> $cells codes of the training rows
     * @param list<int>       $times how often each row was drawn for the tree
     */
    public function tell(Grove $grove, int $tree, array $cells, array $times): void
    {
        $places = [];
        foreach ($this->asked as $place => $row) {
            if (0 === $times[$row]) {
                $places[] = $place;
            }
        }
        if ([] === $places) {
            return;
        }
        $codes = [];
        foreach ($cells as $column) {
            $own = [];
            foreach ($places as $place) {
                $own[] = $column[$this->asked[$place]];
            }
            $codes[] = $own;
        }
        $zeros = array_values(array_fill(0, \count($places), 0.0));
        for ($k = 0; $k < $this->width; ++$k) {
            foreach ($grove->add($codes, $zeros, $k, $tree, $tree + 1) as $i => $v) {
                $this->sums[$k][$places[$i]] += $v;
            }
        }
        foreach ($places as $place) {
            ++$this->times[$place];
        }
        if ($tree >= $this->next) {
            $this->curve[] = ['trees' => $tree, 'out_of_bag' => $this->error()];
            $this->next = max($tree + 1, (int) ceil($tree * (1 + 4 / self::POINTS)));
        }
    }

    /** Mean squared error; of classes, of the chance of each (the Brier score, over all classes when there are more than two). */
    private function error(): float
    {
        $sum = 0.0;
        $n = 0;
        foreach ($this->asked as $place => $row) {
            $times = $this->times[$place];
            if (0 === $times) {
                continue;
            }
            ++$n;
            foreach ($this->sums as $k => $sums) {
                $truth = $this->classes > 2 ? ($k === (int) $this->y[$row] ? 1.0 : 0.0) : $this->y[$row];
                $sum += ($sums[$place] / $times - $truth) ** 2;
            }
        }

        return $n > 0 ? $sum / $n : 0.0;
    }

    /** @return list<array{trees: int, out_of_bag: float}> */
    public function curve(): array
    {
        return $this->curve;
    }
}
