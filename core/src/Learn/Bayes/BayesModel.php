<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Learn\AddsTerms;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\Scale;
use Dokimos\Core\Learn\ShownEvidence;
use Dokimos\Core\Learn\ShowsEvidence;
use Dokimos\Core\Learn\SumOfTerms;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** Shares of classes, and what each column says of each. */
final readonly class BayesModel implements CanBeRead, TellsClasses, ShowsEvidence, AddsTerms, GivesReport, AsExpression
{
    /**
     * @param list<Factor> $factors
     * @param list<string> $classes
     * @param list<float>  $priors  logarithm of the share of each class
     * @param ?Temper      $temper  null = chances as they come
     * @param list<string> $notes
     */
    public function __construct(
        private array $factors,
        private array $classes,
        private array $priors,
        private ?Temper $temper,
        private array $notes,
        private int $rows,
    ) {
    }

    public function classes(): array
    {
        return $this->classes;
    }

    /** @return \Closure(list<int>): list<list<float>> logarithms of the classes, off by the same, of rows of a table */
    public function logsOf(Table $table): \Closure
    {
        return function (array $rows) use ($table): array {
            /** @var list<int> $rows */
            $out = array_map(static fn (float $prior): array => [] === $rows ? [] : array_fill(0, \count($rows), $prior), $this->priors);
            foreach ($this->factors as $factor) {
                foreach ($factor->logs($table->column($factor->column()), $rows) as $class => $logs) {
                    foreach ($logs as $i => $log) {
                        $out[$class][$i] += $log;
                    }
                }
            }

            return array_map(array_values(...), $out);
        };
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $shares = $this->shares($table, $rows);

        return $shares[\count($shares) - 1];
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        return Temper::shares($this->logsOf($table)($rows ?? ($table->rows > 0 ? range(0, $table->rows - 1) : [])), $this->temper);
    }

    public function expressions(Frame $frame): array
    {
        $of = array_map(static fn (Factor $f): array => $f->expressions($frame), $this->factors);
        $logs = [];
        foreach ($this->priors as $class => $prior) {
            $logs[] = Operation::sum([new Constant($prior), ...array_column($of, $class)]);
        }

        return Temper::expressions($logs, $this->temper);
    }

    public function columns(): array
    {
        return array_map(static fn (Factor $f): string => $f->column(), $this->factors);
    }

    public function reading(): int
    {
        return \count($this->factors);
    }

    public function size(): string
    {
        $many = $this->reading();

        return 1 === $many ? '1 column' : number_format($many).' columns';
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function outset(): array
    {
        return Weights::outset($this->priors);
    }

    public function evidence(): array
    {
        $all = [];
        foreach ($this->factors as $factor) {
            $own = $tells = [];
            foreach ($factor->values() as [$value, $share, $logs]) {
                $weights = Weights::of($logs, $this->priors, $this->temper->b ?? 1.0);
                $own[] = new ShownEvidence($factor->column(), $value, null, $share, $weights);
                $tells[] = $share * abs($weights[\count($weights) - 1]);
            }
            $all[] = [array_sum($tells), $own];
        }
        usort($all, static fn (array $a, array $b): int => $b[0] <=> $a[0]);

        return array_merge(...array_column($all, 1));
    }

    public function terms(?int $class): ?SumOfTerms
    {
        if (2 !== \count($this->classes)) {
            return null;
        }
        $b = $this->temper->b ?? 1.0;

        return new SumOfTerms(
            array_map(static fn (Factor $f): array => [$f->column()], $this->factors),
            function (Table $table, int $term) use ($b): array {
                $factor = $this->factors[$term];
                [$no, $yes] = $factor->logs($table->column($factor->column()), $table->rows > 0 ? range(0, $table->rows - 1) : []);

                return array_map(static fn (float $y, float $n): float => $b * ($y - $n), $yes, $no);
            },
            ($this->temper->a ?? 0.0) + $b * ($this->priors[1] - $this->priors[0]),
            Scale::LogOdds,
        );
    }

    public function report(Task $task, Reported $wanted): array
    {
        $parameters = [];
        foreach ($this->classes as $k => $class) {
            $own = ['prior' => exp($this->priors[$k])];
            foreach ($this->factors as $factor) {
                $own = array_replace_recursive($own, $factor->parameters($k));
            }
            $parameters[$class] = $own;
        }

        return ['rows' => $this->rows, 'classes' => $this->classes, 'parameters' => $parameters]
            + (null === $wanted->new ? [] : ['predictions_new' => Weights::predictions($this, $wanted->new)]);
    }

    public function toArray(): array
    {
        return [
            'learner' => 'naive-bayes',
            'classes' => $this->classes,
            'priors' => $this->priors,
            'factors' => array_map(static fn (Factor $f): array => $f->toArray(), $this->factors),
            'temper' => null === $this->temper ? null : [$this->temper->a, $this->temper->b],
            'notes' => $this->notes,
            'rows' => $this->rows,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     classes: list<string>, priors: list<float|int>, factors: list<array<string, mixed>>,
         *     temper: ?array{float|int, float|int}, notes: list<string>, rows: int,
         * } $data
         */
        return new self(
            array_map(static fn (array $f): Factor => match ($f['form'] ?? '') {
                'normal' => NormalFactor::fromArray($f),
                'kernel' => KernelFactor::fromArray($f),
                default => CountFactor::fromArray($f),
            }, $data['factors']),
            $data['classes'],
            array_map(floatval(...), $data['priors']),
            null === $data['temper'] ? null : new Temper((float) $data['temper'][0], (float) $data['temper'][1]),
            $data['notes'],
            $data['rows'],
        );
    }
}
