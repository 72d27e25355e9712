<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Learn\Tree\Packing;
use Dokimos\Core\Progress;
use Random\Randomizer;

/**
 * Rows drawn with replacement, and the curves that were boosted on them, column after column, until the rows that were not drawn lose no
 * less. Definition: docs/methods/additive.md.
 */
final class Bag
{
    /** Columns that are moved before slopes are asked for anew: each by a small step, so that they hardly get in each other's way. */
    private const AT_ONCE = 4;
    private const PATIENCE = 15;

    /** @var list<list<list<float>>> per class and column, what is added by code */
    public array $curves = [];
    /** @var list<list<float>> sums of the drawn rows, per class */
    public array $sums = [];
    /** @var list<list<float>> sums of the rows not drawn, per class */
    public array $outSums = [];
    public float $outLoss = \INF;
    public int $rounds = 0;

    /** @var list<float> */
    public readonly array $y;
    /** @var list<float> */
    public readonly array $outY;
    /** @var ?list<float> */
    public readonly ?array $w;
    /** @var ?list<float> */
    public readonly ?array $outW;
    public readonly Packing $packing;

    /**
     * @param list<list<int>> $all    codes per column, of all training rows
     * @param list<float>     $y
     * @param ?list<float>    $w
     * @param list<int>       $drawn  places among the training rows, some twice
     * @param list<int>       $out    those that were not drawn
     * @param list<float>     $starts sums before anything is added, per class
     */
    public function __construct(
        private readonly int $kind,
        private readonly array $all,
        array $y,
        ?array $w,
        private readonly array $drawn,
        private readonly array $out,
        array $starts,
    ) {
        [$this->y, $this->outY] = [self::of($y, $drawn), self::of($y, $out)];
        $this->w = null === $w ? null : self::of($w, $drawn);
        $this->outW = null === $w ? null : self::of($w, $out);
        $this->packing = new Packing(\count($drawn));
        foreach ($starts as $start) {
            $this->sums[] = array_values(array_fill(0, \count($drawn), $start));
            $this->outSums[] = [] === $out ? [] : array_values(array_fill(0, \count($out), $start));
        }
    }

    /**
     * @param list<float> $list
     * @param list<int>   $rows
     *
     * @return list<float>
     */
    private static function of(array $list, array $rows): array
    {
        $own = [];
        foreach ($rows as $row) {
            $own[] = $list[$row];
        }

        return $own;
    }

    /** @return list<int> codes of the drawn rows: laid down when they are needed, since many bags would not fit the memory */
    public function codes(int $column): array
    {
        return self::cells($this->all[$column], $this->drawn);
    }

    /** @return list<int> codes of the rows not drawn */
    public function outCodes(int $column): array
    {
        return self::cells($this->all[$column], $this->out);
    }

    /**
     * @param list<int> $column
     * @param list<int> $rows
     *
     * @return list<int>
     */
    private static function cells(array $column, array $rows): array
    {
        $own = [];
        foreach ($rows as $row) {
            $own[] = $column[$row];
        }

        return $own;
    }

    /**
     * Rows of a bag: as many as there are, drawn with replacement.
     *
     * @return array{list<int>, list<int>} those drawn, in their order, and the others
     */
    public static function drawn(int $rows, Randomizer $random): array
    {
        $times = array_fill(0, $rows, 0);
        for ($i = 0; $i < $rows; ++$i) {
            ++$times[$random->getInt(0, $rows - 1)];
        }
        $drawn = $out = [];
        foreach ($times as $row => $many) {
            if (0 === $many) {
                $out[] = $row;
            }
            for (; $many > 0; --$many) {
                $drawn[] = $row;
            }
        }

        return [$drawn, $out];
    }

    /**
     * @param list<int>  $sizes  codes of each column, without that for missing
     * @param list<bool> $orders whether they are in an order
     * @param list<int>  $rising 1, -1 or 0 by column
     */
    public function boost(array $sizes, array $orders, array $rising, Step $step, float $rate, int $most, Progress $progress): void
    {
        $slopes = new Slopes($this->kind, $this->y, $this->w, $this->packing);
        $classes = \count($this->sums);
        foreach (array_keys($this->sums) as $class) {
            $this->curves[$class] = array_map(static fn (int $size): array => array_values(array_fill(0, $size + 1, 0.0)), $sizes);
        }
        $this->outLoss = Slopes::loss($this->kind, $this->outSums, $this->outY, $this->outW);
        $best = [$this->curves, $this->sums, $this->outSums];
        $columns = array_keys($sizes);
        [$codes, $outCodes] = [array_map($this->codes(...), $columns), array_map($this->outCodes(...), $columns)];
        for ($round = 1, $waited = 0; $round <= $most && $waited < self::PATIENCE && [] !== $columns; ++$round) {
            foreach (array_chunk($columns, self::AT_ONCE) as $some) {
                for ($class = 0; $class < $classes; ++$class) {
                    $this->add(
                        $class,
                        $this->moves($some, $codes, $slopes->of($this->sums, $class), $sizes, $orders, $rising, $step, $rate),
                        $codes,
                        $outCodes,
                    );
                }
            }
            $loss = Slopes::loss($this->kind, $this->outSums, $this->outY, $this->outW);
            if ($loss < $this->outLoss - 1e-6 * abs($this->outLoss)) {
                $best = [$this->curves, $this->sums, $this->outSums];
                [$this->outLoss, $this->rounds, $waited] = [$loss, $round, 0];
            } else {
                ++$waited;
            }
            $progress->report($round / $most);
        }
        [$this->curves, $this->sums, $this->outSums] = $best;
    }

    /**
     * Hot loop: a histogram of each column.
     *
     * @param list<int>                      $columns
     * @param list<list<int>>                $codes   of the drawn rows
     * @param array{list<int>, float, float} $slopes
     * @param list<int>                      $sizes
     * @param list<bool>                     $orders
     * @param list<int>                      $rising
     *
     * @return array<int, list<float>> by column what is added by code
     */
    private function moves(
        array $columns,
        array $codes,
        array $slopes,
        array $sizes,
        array $orders,
        array $rising,
        Step $step,
        float $rate,
    ): array {
        [$packed, $g1, $h1] = $slopes;
        $moves = [];
        foreach ($columns as $c) {
            $histogram = array_fill(0, $sizes[$c] + 1, 0);
            foreach ($codes[$c] as $i => $code) {
                $histogram[$code] += $packed[$i];
            }
            $move = $step->of(array_values($histogram), $g1, $h1, $orders[$c], $rising[$c], $rate);
            if (null !== $move) {
                $moves[$c] = $move;
            }
        }

        return $moves;
    }

    /**
     * Hot loop: what steps add to every row.
     *
     * @param array<int, list<float>> $moves
     * @param list<list<int>>         $codes
     * @param list<list<int>>         $outCodes
     */
    private function add(int $class, array $moves, array $codes, array $outCodes): void
    {
        $sums = $this->sums[$class];
        $this->sums[$class] = [];
        $out = $this->outSums[$class];
        $this->outSums[$class] = [];
        foreach ($moves as $c => $move) {
            foreach ($codes[$c] as $i => $code) {
                $sums[$i] += $move[$code];
            }
            foreach ($outCodes[$c] as $i => $code) {
                $out[$i] += $move[$code];
            }
            $curve = $this->curves[$class][$c];
            foreach ($move as $code => $v) {
                $curve[$code] += $v;
            }
            $this->curves[$class][$c] = array_values($curve);
        }
        $this->sums[$class] = array_values($sums);
        $this->outSums[$class] = array_values($out);
    }

    /** What the rows not drawn would lose more without the curve of a column. */
    public function worth(int $column): float
    {
        $sums = [];
        $codes = $this->outCodes($column);
        foreach ($this->outSums as $class => $own) {
            $curve = $this->curves[$class][$column];
            foreach ($own as $i => $sum) {
                $own[$i] = $sum - $curve[$codes[$i]];
            }
            $sums[] = $own;
        }

        return Slopes::loss($this->kind, $sums, $this->outY, $this->outW) - $this->outLoss;
    }

    /** Takes the curve of a column out again. */
    public function drop(int $column): void
    {
        [$codes, $outCodes] = [$this->codes($column), $this->outCodes($column)];
        foreach (array_keys($this->sums) as $class) {
            $curve = $this->curves[$class][$column];
            [$sums, $out] = [$this->sums[$class], $this->outSums[$class]];
            foreach ($codes as $i => $code) {
                $sums[$i] -= $curve[$code];
            }
            foreach ($outCodes as $i => $code) {
                $out[$i] -= $curve[$code];
            }
            [$this->sums[$class], $this->outSums[$class]] = [array_values($sums), array_values($out)];
            $this->curves[$class][$column] = array_fill(0, \count($curve), 0.0);
        }
        $this->outLoss = Slopes::loss($this->kind, $this->outSums, $this->outY, $this->outW);
    }
}
