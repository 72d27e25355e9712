<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Design\Measured;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Learn\Moments;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;

/** A number as normal within each class. */
final readonly class NormalFactor implements Factor
{
    /** @param list<array{n: float, mean: float, sd: float}> $own per class */
    private function __construct(private string $column, private array $own, private Spots $spots)
    {
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
        if (is_nan($sd) || $sd <= 0.0) {
            return null;
        }
        $own = [];
        foreach ($by as [$v, $w]) {
            [$n, $m, $s] = Moments::of($v, $w);
            // A class whose values are all the same, or that has fewer than two, is as wide as all rows are.
            $own[] = ['n' => $n, 'mean' => is_nan($m) ? $mean : $m, 'sd' => $s > 1e-9 * $sd ? $s : $sd];
        }

        return new self($column, $own, Spots::of($all[0], $isDate));
    }

    public function column(): string
    {
        return $this->column;
    }

    /** @param array{n: float, mean: float, sd: float} $o */
    private static function log(array $o, float $v): float
    {
        // Beyond what can be squared the density of every class is as good as none.
        $z = max(-1e8, min(1e8, ($v - $o['mean']) / $o['sd']));

        return -0.5 * $z * $z - log($o['sd']) - 0.5 * log(2 * \M_PI);
    }

    public function logs(Column $column, array $rows): array
    {
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            throw new OtherKind($this->column, $column, OtherKind::NUMBER);
        }
        $values = Measured::of($column, $rows);

        return array_map(static fn (array $o): array => array_map(
            static fn (float $v): float => is_finite($v) ? self::log($o, $v) : 0.0,
            $values,
        ), $this->own);
    }

    public function expressions(Frame $frame): array
    {
        $column = $frame->column($this->column);

        return array_map(static function (array $o) use ($column): Expression {
            $far = Operation::of(
                Operator::Over,
                Operation::of(Operator::Less, $column, new Constant($o['mean'])),
                new Constant($o['sd']),
            );
            $z = Operation::of(Operator::Most, Operation::of(Operator::Least, $far, new Constant(1e8)), new Constant(-1e8));
            $log = Operation::of(
                Operator::Add,
                Operation::of(Operator::Times, new Constant(-0.5), $z, $z),
                new Constant(-log($o['sd']) - 0.5 * log(2 * \M_PI)),
            );

            return new When(new IsMissing($column), new Constant(0.0), $log);
        }, $this->own);
    }

    public function values(): array
    {
        return array_map(
            fn (array $p): array => [$p[0], $p[2], array_map(static fn (array $o): float => self::log($o, $p[1]), $this->own)],
            $this->spots->parts,
        );
    }

    public function parameters(int $class): array
    {
        $o = $this->own[$class];

        return ['numeric' => [$this->column => ['n' => (int) round($o['n']), 'mean' => $o['mean'], 'sd' => $o['sd']]]];
    }

    public function toArray(): array
    {
        return ['form' => 'normal', 'column' => $this->column, 'own' => $this->own, 'spots' => $this->spots->parts];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     column: string, own: list<array{n: float|int, mean: float|int, sd: float|int}>,
         *     spots: list<array{string, float|int, float|int}>,
         * } $data
         */
        return new self(
            $data['column'],
            array_map(
                static fn (array $o): array => ['n' => (float) $o['n'], 'mean' => (float) $o['mean'], 'sd' => (float) $o['sd']],
                $data['own'],
            ),
            Spots::read($data['spots']),
        );
    }
}
