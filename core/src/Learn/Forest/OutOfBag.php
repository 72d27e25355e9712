<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Forest;

use Dokimos\Core\Design\RowCodes;
use Dokimos\Core\Learn\Tree\Grove;

/** What trees say of rows that they were not grown on: an honest error without a fold. */
final class OutOfBag
{
    private const POINTS = 40;
    /** Enough rows to draw the curve; of more, every so-manieth is asked. */
    private const MOST = 20_000;
    /** As many codes are kept for it. */
    private const CODES = 4_000_000;

    /** @var list<int> */
    private array $asked = [];
    private readonly RowCodes $codes;
    /** @var array<int, list<float>> per value of a leaf, one sum per asked row */
    private array $sums = [];
    /** @var array<int, int> */
    private array $times = [];
    /** @var list<array{trees: int, out_of_bag: float}> */
    private array $curve = [];
    private int $next = 1;
    private int $told = 0;

    /**
     * @param list<int|float> $y
     * @param list<list<int>> $cells codes of the training rows, by column
     */
    public function __construct(private readonly array $y, private readonly int $classes, private readonly int $width, array $cells)
    {
        $most = max(1, min(self::MOST, intdiv(self::CODES, max(1, \count($cells)))));
        $step = max(1, (int) ceil(\count($y) / $most));
        for ($i = 0, $n = \count($y); $i < $n; $i += $step) {
            $this->asked[] = $i;
        }
        $own = [];
        foreach ($cells as $column) {
            $some = [];
            foreach ($this->asked as $row) {
                $some[] = $column[$row];
            }
            $own[] = $some;
        }
        $this->codes = RowCodes::of($own, \count($this->asked));
        $zeros = array_values(array_fill(0, \count($this->asked), 0.0));
        $this->sums = array_values(array_fill(0, $width, $zeros));
        $this->times = array_values(array_fill(0, \count($this->asked), 0));
    }

    /**
     * @param int       $tree  its place in the grove; the first is no tree but the mean of all rows
     * @param list<int> $times how often each row was drawn for the tree
     */
    public function tell(Grove $grove, int $tree, array $times): void
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
        $this->told = $tree;
        for ($k = 0; $k < $this->width; ++$k) {
            $this->sums[$k] = $grove->add($this->codes, $this->sums[$k], $k, $tree, $tree + 1, 1, $places);
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
                $d = $sums[$place] / $times - $truth;
                $sum += $d * $d;
            }
        }

        return $n > 0 ? $sum / $n : 0.0;
    }

    /** @return list<array{trees: int, out_of_bag: float}> up to the last tree that was told */
    public function curve(): array
    {
        $last = $this->curve[\count($this->curve) - 1]['trees'] ?? 0;

        return $this->told > $last ? [...$this->curve, ['trees' => $this->told, 'out_of_bag' => $this->error()]] : $this->curve;
    }
}
