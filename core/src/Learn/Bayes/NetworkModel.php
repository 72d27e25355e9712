<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Learn\AddsTerms;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\Scale;
use Dokimos\Core\Learn\ShownEvidence;
use Dokimos\Core\Learn\ShownNode;
use Dokimos\Core\Learn\ShowsNetwork;
use Dokimos\Core\Learn\SumOfTerms;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** A tree of columns below the target, with a table at each. */
final readonly class NetworkModel implements CanBeRead, ShowsNetwork, AddsTerms, GivesReport, AsExpression
{
    /**
     * @param list<Node>        $nodes
     * @param list<list<float>> $links   conditional mutual information of every two, nats
     * @param list<string>      $classes
     * @param list<float>       $priors  logarithm of the share of each class
     * @param list<string>      $notes
     */
    public function __construct(
        private array $nodes,
        private array $links,
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
            foreach (array_keys($this->nodes) as $i) {
                foreach ($this->of($i, $table, $rows) as $class => $logs) {
                    foreach ($logs as $k => $log) {
                        $out[$class][$k] += $log;
                    }
                }
            }

            return array_map(array_values(...), $out);
        };
    }

    /**
     * @param list<int> $rows
     *
     * @return list<list<float>> what a node says, per class
     */
    private function of(int $i, Table $table, array $rows): array
    {
        $node = $this->nodes[$i];
        $codes = $node->values->codes($table->column($node->values->column), $rows);
        $parent = null === $node->parent ? null : $this->nodes[$node->parent];
        $beside = null === $parent ? null : $parent->values->codes($table->column($parent->values->column), $rows);
        $given = null === $parent ? 1 : $parent->values->size();
        [$logs, $alone] = [$node->logs(), $node->alone()];
        $out = [];
        foreach (array_keys($this->classes) as $class) {
            $own = [];
            foreach ($codes as $k => $code) {
                $u = null === $beside ? 0 : $beside[$k];
                $own[] = $code < 0 ? 0.0 : ($u < 0 ? $alone[$class][$code] : $logs[$class * $given + $u][$code]);
            }
            $out[] = $own;
        }

        return $out;
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
        $logs = array_map(static fn (float $prior): array => [new Constant($prior)], $this->priors);
        $codes = [];
        foreach ($this->nodes as $node) {
            $parent = null === $node->parent ? null : $this->nodes[$node->parent];
            $given = null === $parent ? 1 : $parent->values->size();
            if (null !== $parent) {
                // Each parent is looked up once, however many columns hang on it.
                $codes[$node->parent] ??= Operation::of(
                    Operator::Add,
                    new Constant(0.0),
                    $parent->values->told($frame, array_map(floatval(...), range(0, $given - 1)), -1.0),
                );
            }
            [$own, $alone] = [$node->logs(), $node->alone()];
            foreach (array_keys($this->classes) as $class) {
                if (null === $parent) {
                    $logs[$class][] = $node->values->told($frame, $own[$class], 0.0);
                    continue;
                }
                $code = $codes[$node->parent];
                $so = $node->values->told($frame, $own[$class * $given + $given - 1], 0.0);
                for ($u = $given - 2; $u >= 0; --$u) {
                    $so = new When(
                        Operation::of(Operator::Below, $code, new Constant($u + 0.5)),
                        $node->values->told($frame, $own[$class * $given + $u], 0.0),
                        $so,
                    );
                }
                $unknown = Operation::of(Operator::Below, $code, new Constant(-0.5));
                $so = new When($unknown, $node->values->told($frame, $alone[$class], 0.0), $so);
                $logs[$class][] = $so;
            }
        }

        return Temper::expressions(array_map(Operation::sum(...), $logs), $this->temper);
    }

    public function columns(): array
    {
        return array_map(static fn (Node $n): string => $n->values->column, $this->nodes);
    }

    public function reading(): int
    {
        return \count($this->nodes);
    }

    public function size(): string
    {
        $tables = \count($this->nodes);

        return \sprintf(
            '%d %s and %d %s',
            $tables,
            1 === $tables ? 'table' : 'tables',
            max(0, $tables - 1),
            2 === $tables ? 'link' : 'links',
        );
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function outset(): array
    {
        return Weights::outset($this->priors);
    }

    /** @return list<int> places of the nodes, that which tells most first */
    private function ordered(): array
    {
        $order = array_keys($this->nodes);
        usort($order, fn (int $a, int $b): int => $this->nodes[$b]->tells <=> $this->nodes[$a]->tells
            ?: strcmp($this->nodes[$a]->values->column, $this->nodes[$b]->values->column));

        return $order;
    }

    public function evidence(): array
    {
        $out = [];
        $times = $this->temper->b ?? 1.0;
        foreach ($this->ordered() as $i) {
            $node = $this->nodes[$i];
            $parent = null === $node->parent ? null : $this->nodes[$node->parent];
            $given = null === $parent ? 1 : $parent->values->size();
            $logs = $node->logs();
            $all = max(1e-300, array_sum($node->rows()));
            for ($u = 0; $u < $given; ++$u) {
                for ($v = 0; $v < $node->values->size(); ++$v) {
                    $own = [];
                    $rows = 0.0;
                    foreach (array_keys($this->classes) as $class) {
                        $own[] = $logs[$class * $given + $u][$v];
                        $rows += $node->counted($class * $given + $u)[$v];
                    }
                    $out[] = new ShownEvidence(
                        $node->values->column,
                        $node->values->label($v),
                        null === $parent ? null : $parent->values->column.' '.$parent->values->label($u),
                        $rows / $all,
                        Weights::of($own, $this->priors, $times),
                    );
                }
            }
        }

        return $out;
    }

    public function nodes(): array
    {
        $out = [];
        foreach ($this->ordered() as $i) {
            $node = $this->nodes[$i];
            $parent = null === $node->parent ? null : $this->nodes[$node->parent];
            $given = null === $parent ? 1 : $parent->values->size();
            $shares = $rows = [];
            $logs = $node->logs();
            $counted = $node->rows();
            for ($u = 0; $u < $given; ++$u) {
                $own = $n = [];
                foreach (array_keys($this->classes) as $class) {
                    $own[] = array_map(exp(...), $logs[$class * $given + $u]);
                    $n[] = $counted[$class * $given + $u];
                }
                $shares[] = $own;
                $rows[] = $n;
            }
            $out[] = new ShownNode(
                $node->values->column,
                $node->tells / \M_LN2,
                $parent?->values->column,
                null === $node->link ? null : $node->link / \M_LN2,
                array_map($node->values->label(...), range(0, $node->values->size() - 1)),
                null === $parent ? [''] : array_map($parent->values->label(...), range(0, $given - 1)),
                $shares,
                $rows,
            );
        }

        return $out;
    }

    public function terms(?int $class): ?SumOfTerms
    {
        if (2 !== \count($this->classes)) {
            return null;
        }
        $b = $this->temper->b ?? 1.0;

        return new SumOfTerms(
            array_map(fn (Node $n): array => null === $n->parent
                ? [$n->values->column]
                : [$n->values->column, $this->nodes[$n->parent]->values->column], $this->nodes),
            function (Table $table, int $term) use ($b): array {
                [$no, $yes] = $this->of($term, $table, $table->rows > 0 ? range(0, $table->rows - 1) : []);

                return array_map(static fn (float $y, float $n): float => $b * ($y - $n), $yes, $no);
            },
            ($this->temper->a ?? 0.0) + $b * ($this->priors[1] - $this->priors[0]),
            Scale::LogOdds,
        );
    }

    public function report(Task $task, Reported $wanted): array
    {
        $tree = $parents = [];
        $names = $this->columns();
        $queue = array_keys(array_filter($this->nodes, static fn (Node $n): bool => null === $n->parent));
        foreach ($queue as $i) {
            $parents[$names[$i]] = null;
        }
        while ([] !== $queue) {
            $from = array_shift($queue);
            foreach ($this->nodes as $i => $node) {
                if ($node->parent === $from) {
                    $tree[] = ['parent' => $names[$from], 'child' => $names[$i], 'weight' => $node->link];
                    $parents[$names[$i]] = $names[$from];
                    $queue[] = $i;
                }
            }
        }

        return [
            'rows' => $this->rows, 'columns' => $names, 'classes' => $this->classes, 'conditional_mutual_information' => $this->links,
            'tree' => $tree, 'parents' => $parents,
        ] + (null === $wanted->new ? [] : ['predictions_new' => Weights::predictions($this, $wanted->new)]);
    }

    public function toArray(): array
    {
        return [
            'learner' => 'bayes-network',
            'classes' => $this->classes,
            'priors' => $this->priors,
            'nodes' => array_map(static fn (Node $n): array => $n->toArray(), $this->nodes),
            'links' => $this->links,
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
         *     classes: list<string>, priors: list<float|int>, nodes: list<array<string, mixed>>,
         *     links: list<list<float|int>>, temper: ?array{float|int, float|int}, notes: list<string>, rows: int,
         * } $data
         */
        return new self(
            array_map(Node::fromArray(...), $data['nodes']),
            array_map(static fn (array $l): array => array_map(floatval(...), $l), $data['links']),
            $data['classes'],
            array_map(floatval(...), $data['priors']),
            null === $data['temper'] ? null : new Temper((float) $data['temper'][0], (float) $data['temper'][1]),
            $data['notes'],
            $data['rows'],
        );
    }
}
