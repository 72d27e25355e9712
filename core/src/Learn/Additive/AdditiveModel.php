<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\Shares;
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Learn\AddsTerms;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\Scale;
use Dokimos\Core\Learn\ShowsCurves;
use Dokimos\Core\Learn\SumOfTerms;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\Table;

/** Curves and pairs that add up. */
final readonly class AdditiveModel implements CanBeRead, TellsClasses, ShowsCurves, AddsTerms, AsExpression
{
    private const LEAST = 1e-15;

    /**
     * @param list<Curve>   $curves
     * @param list<Pair>    $pairs
     * @param list<float>   $starts  per class of several, else one
     * @param ?list<string> $classes
     * @param float         $mean    of a number, and
     * @param float         $sd      what it is measured by
     * @param list<string>  $notes
     */
    public function __construct(
        private Codes $codes,
        private array $curves,
        private array $pairs,
        private array $starts,
        private ?array $classes,
        private float $mean,
        private float $sd,
        private array $notes,
    ) {
    }

    public function classes(): array
    {
        return $this->classes ?? [];
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $shares = $this->shares($table, $rows);

        return $shares[\count($shares) - 1];
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        $sums = $this->sums($table, $rows);
        if (null === $this->classes) {
            return [array_map(fn (float $s): float => $this->mean + $this->sd * $s, $sums[0])];
        }
        if (2 === \count($this->classes)) {
            $events = array_map(
                static fn (float $s): float => max(self::LEAST, min(1.0 - self::LEAST, Scale::LogOdds->answer($s))),
                $sums[0],
            );

            return [array_map(static fn (float $p): float => 1.0 - $p, $events), $events];
        }

        return Slopes::shares($sums);
    }

    /**
     * @param ?list<int> $rows
     *
     * @return list<list<float>> per class of several, else one
     */
    private function sums(Table $table, ?array $rows): array
    {
        $codes = $this->codes->of($table, $rows, $this->features());
        $many = null === $rows ? $table->rows : \count($rows);
        $out = [];
        foreach ($this->starts as $class => $start) {
            $sums = $many > 0 ? array_fill(0, $many, $start) : [];
            foreach ($this->curves as $curve) {
                $adds = $curve->adds[$class];
                foreach ($codes[$curve->column] as $i => $code) {
                    $sums[$i] += $adds[$code];
                }
            }
            foreach ($this->pairs as $pair) {
                [$first, $second, $width, $adds] = [
                    $pair->firstGrid->groups,
                    $pair->secondGrid->groups,
                    $pair->secondGrid->size,
                    $pair->adds[$class],
                ];
                $other = $codes[$pair->second];
                foreach ($codes[$pair->first] as $i => $code) {
                    $sums[$i] += $adds[$first[$code] * $width + $second[$other[$i]]];
                }
            }
            $out[] = array_values($sums);
        }

        return $out;
    }

    /** @return list<int> places of the columns that are read */
    private function features(): array
    {
        $used = [];
        foreach ($this->curves as $curve) {
            $used[$curve->column] = true;
        }
        foreach ($this->pairs as $pair) {
            $used[$pair->first] = $used[$pair->second] = true;
        }
        ksort($used);

        return array_keys($used);
    }

    public function columns(): array
    {
        return array_map(fn (int $f): string => $this->codes->columns[$f], $this->features());
    }

    public function reading(): int
    {
        return \count($this->curves) + \count($this->pairs);
    }

    public function size(): string
    {
        $curves = \count($this->curves);
        $pairs = \count($this->pairs);

        return (1 === $curves ? '1 curve' : $curves.' curves').(0 === $pairs ? '' : (1 === $pairs ? ' and 1 pair' : " and $pairs pairs"));
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function start(): float
    {
        return null === $this->classes ? $this->mean + $this->sd * $this->starts[0] : $this->starts[\count($this->starts) - 1];
    }

    public function addsToOdds(): bool
    {
        return null !== $this->classes;
    }

    public function curves(): array
    {
        return (new Told($this->codes, $this->classes, $this->sd))->curves($this->curves);
    }

    public function pairs(): array
    {
        return (new Told($this->codes, $this->classes, $this->sd))->pairs($this->pairs);
    }

    public function terms(?int $class): ?SumOfTerms
    {
        if (null !== $this->classes && 2 !== \count($this->classes)) {
            return null;
        }
        $columns = [];
        foreach ($this->curves as $curve) {
            $columns[] = [$this->codes->columns[$curve->column]];
        }
        foreach ($this->pairs as $pair) {
            $columns[] = [$this->codes->columns[$pair->first], $this->codes->columns[$pair->second]];
        }

        return new SumOfTerms(
            $columns,
            fn (Table $table, int $term): array => $this->added($table, $term),
            $this->start(),
            null === $this->classes ? Scale::AsItIs : Scale::LogOdds,
        );
    }

    /** @return list<float> what a term adds to each row */
    private function added(Table $table, int $term): array
    {
        $curve = $this->curves[$term] ?? null;
        if (null !== $curve) {
            $codes = $this->codes->of($table, null, [$curve->column])[$curve->column];

            return array_map(fn (int $code): float => $this->sd * $curve->adds[0][$code], $codes);
        }
        $pair = $this->pairs[$term - \count($this->curves)];
        $codes = $this->codes->of($table, null, [$pair->first, $pair->second]);
        $out = [];
        foreach ($codes[$pair->first] as $i => $code) {
            $down = $pair->firstGrid->groups[$code];
            $across = $pair->secondGrid->groups[$codes[$pair->second][$i]];
            $out[] = $this->sd * $pair->adds[0][$down * $pair->secondGrid->size + $across];
        }

        return $out;
    }

    public function toArray(): array
    {
        return [
            'learner' => 'additive',
            'codes' => $this->codes->toArray(),
            'curves' => array_map(static fn (Curve $c): array => $c->toArray(), $this->curves),
            'pairs' => array_map(static fn (Pair $p): array => $p->toArray(), $this->pairs),
            'starts' => $this->starts,
            'classes' => $this->classes,
            'mean' => $this->mean,
            'sd' => $this->sd,
            'notes' => $this->notes,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     codes: array{columns: list<string>, scales: list<array{cuts?: list<float|int>, levels?: list<string>, other?: bool}>, left_out: array<array-key, string>},
         *     curves: list<array<string, mixed>>, pairs: list<array<string, mixed>>, starts: list<float|int>,
         *     classes: ?list<string>, mean: float|int, sd: float|int, notes: list<string>,
         * } $data
         */
        return new self(
            Codes::fromArray($data['codes']),
            array_map(Curve::fromArray(...), $data['curves']),
            array_map(Pair::fromArray(...), $data['pairs']),
            array_map(floatval(...), $data['starts']),
            $data['classes'],
            (float) $data['mean'],
            (float) $data['sd'],
            $data['notes'],
        );
    }

    public function expressions(Frame $frame): array
    {
        $sums = array_map(
            fn (int $class, float $start): Trees => (new Drawn($this->codes, $this->curves, $this->pairs))->trees($class, $start, $frame),
            array_keys($this->starts),
            $this->starts,
        );
        if (null === $this->classes) {
            return [Operation::sum([new Constant($this->mean), Operation::of(Operator::Times, new Constant($this->sd), $sums[0])])];
        }

        return 2 === \count($this->classes) ? [Operation::chance($sums[0])] : Shares::of($sums);
    }
}
