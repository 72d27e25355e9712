<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Design\Measured;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\TreeNode;
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Learn\Moments;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;

/**
 * A number by a smoothed picture of its values in each class: normal kernels as wide as Silverman (1986, formula 3.31) has it, laid down on
 * a grid, with one record's worth of a normal density of all rows added, so that no value is impossible.
 */
final readonly class KernelFactor implements Factor
{
    private const GRID = 240;

    /**
     * @param float             $from where the grid begins
     * @param float             $step between its places
     * @param list<list<float>> $logs per class and place
     */
    private function __construct(
        private string $column,
        private float $from,
        private float $step,
        private array $logs,
        private Spots $spots,
    ) {
    }

    /**
     * @param list<float> $values  of training rows; those that are not finite are skipped
     * @param list<int>   $classes
     * @param list<float> $weights
     *
     * @return ?self null where all values are the same
     */
    public static function learn(string $column, array $values, array $classes, array $weights, int $many, bool $isDate): ?self
    {
        $by = array_fill(0, $many, [[], []]);
        $all = [[], []];
        foreach ($values as $i => $v) {
            if (is_finite($v)) {
                $by[$classes[$i]][0][] = $all[0][] = $v;
                $by[$classes[$i]][1][] = $all[1][] = $weights[$i];
            }
        }
        [, $mean, $sd] = Moments::of(...$all);
        if (is_nan($sd) || $sd <= 0.0 || is_infinite($sd)) {
            return null;
        }
        // The grid holds what lies within reach of most values; beyond its ends the density is that of the end.
        $from = max(min([\INF, ...$all[0]]), $mean - 6 * $sd);
        $to = min(max([-\INF, ...$all[0]]), $mean + 6 * $sd);
        $step = ($to - $from) / (self::GRID - 1);
        if ($step <= 0.0 || !is_finite($step)) {
            return null;
        }
        $wide = array_map(
            static fn (int $k): float => exp(-0.5 * (($from + $k * $step - $mean) / $sd) ** 2) / $sd / sqrt(2 * \M_PI),
            range(0, self::GRID - 1),
        );
        $logs = [];
        foreach ($by as [$v, $w]) {
            $logs[] = self::smoothed($v, $w, $from, $step, $sd, $wide);
        }

        return new self($column, $from, $step, $logs, Spots::of($all[0], $isDate));
    }

    /**
     * @param list<float> $values
     * @param list<float> $weights
     * @param list<float> $wide    density of all rows at each place
     *
     * @return list<float>
     */
    private static function smoothed(array $values, array $weights, float $from, float $step, float $sd, array $wide): array
    {
        [$n, , $own] = Moments::of($values, $weights);
        $sorted = $values;
        sort($sorted, \SORT_NUMERIC);
        $count = \count($sorted);
        $quartiles = $count > 3 ? $sorted[intdiv(3 * $count, 4)] - $sorted[intdiv($count, 4)] : 0.0;
        $own = $own > 0.0 ? $own : $sd;
        $width = max($step, 0.9 * ($quartiles > 0.0 ? min($own, $quartiles / 1.34) : $own) * max(1, $count) ** -0.2);
        $held = array_fill(0, self::GRID, 0.0);
        foreach ($values as $i => $v) {
            $at = max(0.0, min(self::GRID - 1.0, ($v - $from) / $step));
            $low = min(self::GRID - 2, (int) $at);
            $held[$low] += $weights[$i] * (1.0 - ($at - $low));
            $held[$low + 1] += $weights[$i] * ($at - $low);
        }
        $kernel = [];
        for ($d = 0; $d < self::GRID; ++$d) {
            $kernel[] = exp(-0.5 * ($d * $step / $width) ** 2) / $width / sqrt(2 * \M_PI);
        }
        $out = [];
        for ($k = 0; $k < self::GRID; ++$k) {
            $sum = $wide[$k];
            foreach ($held as $j => $h) {
                if ($h > 0.0) {
                    $sum += $h * $kernel[abs($k - $j)];
                }
            }
            $out[] = log(max(1e-300, $sum / ($n + 1.0)));
        }

        return $out;
    }

    public function column(): string
    {
        return $this->column;
    }

    /** @param list<float> $logs */
    private function at(array $logs, float $v): float
    {
        $at = max(0.0, min(self::GRID - 1.0, ($v - $this->from) / $this->step));
        $low = min(self::GRID - 2, (int) $at);
        $part = $at - $low;

        return (1.0 - $part) * $logs[$low] + $part * $logs[$low + 1];
    }

    public function logs(Column $column, array $rows): array
    {
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            throw new OtherKind($this->column, $column, OtherKind::NUMBER);
        }
        $values = Measured::of($column, $rows);

        return array_map(fn (array $logs): array => array_map(
            fn (float $v): float => is_finite($v) ? $this->at($logs, $v) : 0.0,
            $values,
        ), $this->logs);
    }

    /** Between two places of the grid the logarithm is a straight line; which one, a tree over the places tells. */
    public function expressions(Frame $frame): array
    {
        $column = $frame->column($this->column);
        $at = Operation::of(
            Operator::Over,
            Operation::of(Operator::Less, $column, new Constant($this->from)),
            new Constant($this->step),
        );
        $at = Operation::of(Operator::Most, Operation::of(Operator::Least, $at, new Constant(self::GRID - 1.0)), new Constant(0.0));

        return array_map(function (array $logs) use ($column, $at): Expression {
            $slopes = $starts = [];
            for ($k = 0; $k < self::GRID - 1; ++$k) {
                $slopes[] = $logs[$k + 1] - $logs[$k];
                $starts[] = $logs[$k] - $k * $slopes[$k];
            }

            return new When(
                new IsMissing($column),
                new Constant(0.0),
                Operation::of(
                    Operator::Add,
                    $this->trees($starts, $column),
                    Operation::of(Operator::Times, $this->trees($slopes, $column), $at),
                ),
            );
        }, $this->logs);
    }

    /** @param list<float> $by */
    private function trees(array $by, Named $column): Trees
    {
        return new Trees([$this->tree($by, 0, \count($by))], 0.0, [$this->column => $column]);
    }

    /**
     * @param array<array-key, float> $by between each place and the next
     *
     * @return list<TreeNode>
     */
    private function tree(array $by, int $from, int $to): array
    {
        if ($to - $from < 2) {
            return [TreeNode::leaf($by[$from])];
        }
        $middle = ($from + $to) >> 1;
        $left = $this->tree($by, $from, $middle);
        $right = $this->tree($by, $middle, $to);
        $nodes = [TreeNode::number($this->column, $this->from + $middle * $this->step, false, 1, 1 + \count($left))];
        foreach ($left as $node) {
            $nodes[] = $node->moved(1);
        }
        foreach ($right as $node) {
            $nodes[] = $node->moved(1 + \count($left));
        }

        return $nodes;
    }

    public function values(): array
    {
        return array_map(
            fn (array $p): array => [$p[0], $p[2], array_map(fn (array $logs): float => $this->at($logs, $p[1]), $this->logs)],
            $this->spots->parts,
        );
    }

    public function parameters(int $class): array
    {
        return [];
    }

    public function toArray(): array
    {
        return [
            'form' => 'kernel', 'column' => $this->column, 'from' => $this->from, 'step' => $this->step, 'logs' => $this->logs,
            'spots' => $this->spots->parts,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{column: string, from: float|int, step: float|int, logs: list<list<float|int>>, spots: list<array{string, float|int,
         * float|int}>} $data
         */
        return new self(
            $data['column'],
            (float) $data['from'],
            (float) $data['step'],
            array_map(static fn (array $logs): array => array_map(floatval(...), $logs), $data['logs']),
            Spots::read($data['spots']),
        );
    }
}
