<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Expression\AsExpression;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\GivesPaths;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\Scale;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\OtherKind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** A decision tree: questions about one column each, and leaves that answer with what their training rows were. */
final readonly class TreeModel implements AddsTrees, CanBeRead, TellsClasses, GivesPaths, ShowsLeaves, GivesReport, AsExpression
{
    /** Rows mixed as all are that are added to each leaf. */
    private const ADDED = 20.0;

    /**
     * @param list<Node>               $nodes   in pre-order
     * @param ?list<string>            $classes null for a number
     * @param array<array-key, string> $leftOut column => why
     * @param list<string>             $notes
     */
    public function __construct(public array $nodes, private ?array $classes, public array $leftOut, private array $notes)
    {
    }

    public function classes(): array
    {
        return $this->classes ?? [];
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $values = array_map(static fn (array $v): float => $v[\count($v) - 1], self::values($this->nodes, $this->classes));
        $out = [];
        foreach ($this->leaves($table, $rows) as $leaf) {
            $out[] = $values[$leaf];
        }

        return $out;
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        $leaves = $this->leaves($table, $rows);
        $values = self::values($this->nodes, $this->classes);

        return array_map(static fn (int $class): array => array_map(static fn (int $leaf): float => $values[$leaf][$class], $leaves), array_keys($this->classes ?? []));
    }

    /**
     * What each node answers: the mean, or the share of each class with some rows added that are mixed as all training rows are (an
     * m-estimate; docs/methods/tree.md), so that a leaf without a single event does not call it impossible.
     *
     * @param list<Node>    $nodes
     * @param ?list<string> $classes
     *
     * @return list<list<float>> per node: one chance per class, or the mean alone
     */
    public static function values(array $nodes, ?array $classes): array
    {
        if (null === $classes) {
            return array_map(static fn (Node $n): array => [$n->counts[1]], $nodes);
        }
        $root = $nodes[0]->counts;
        $all = array_sum($root) + \count($root);
        $values = [];
        foreach ($nodes as $node) {
            $n = array_sum($node->counts);
            $own = [];
            foreach ($node->counts as $k => $c) {
                $own[] = ($c + self::ADDED * ($root[$k] + 1.0) / $all) / ($n + self::ADDED);
            }
            $values[] = $own;
        }

        return $values;
    }

    /**
     * The node where each row ends.
     *
     * @param ?list<int> $rows
     *
     * @return list<int>
     */
    public function leaves(Table $table, ?array $rows = null): array
    {
        $rows ??= $table->rows > 0 ? range(0, $table->rows - 1) : [];
        $at = $rows;
        // Places in the list, not row numbers: a row may be asked for twice.
        $waiting = [[0, array_keys($rows)]];
        while ([] !== $waiting) {
            [$i, $places] = array_pop($waiting);
            $node = $this->nodes[$i];
            if (null === $node->column) {
                foreach ($places as $place) {
                    $at[$place] = $i;
                }
                continue;
            }
            [$left, $right] = $this->parted($node, $table, $rows, $places);
            if ([] !== $left) {
                $waiting[] = [$node->left, $left];
            }
            if ([] !== $right) {
                $waiting[] = [$node->right, $right];
            }
        }

        return array_values($at);
    }

    /**
     * @param list<int> $rows
     * @param list<int> $places
     *
     * @return array{list<int>, list<int>}
     */
    private function parted(Node $node, Table $table, array $rows, array $places): array
    {
        $column = $table->column((string) $node->column);
        $left = $right = [];
        if (null !== $node->leftLevels) {
            if (!$column instanceof CodedColumn) {
                throw new OtherKind((string) $node->column, $column, OtherKind::CATEGORIES);
            }
            $more = array_sum($this->weights($node->left)) > array_sum($this->weights($node->right));
            $goes = [-1 => $node->missingLeft];
            foreach ($column->levels as $code => $level) {
                $goes[$code] = \in_array($level, $node->leftLevels, true) || ($more && !\in_array($level, $node->rightLevels ?? [], true));
            }
            $codes = $column->codes;
            foreach ($places as $place) {
                if ($goes[$codes[$rows[$place]]]) {
                    $left[] = $place;
                } else {
                    $right[] = $place;
                }
            }

            return [$left, $right];
        }
        $threshold = (float) $node->threshold;
        if ($column instanceof DateColumn) {
            foreach ($places as $place) {
                $seconds = $column->seconds[$rows[$place]];
                if (DateColumn::MISSING === $seconds ? $node->missingLeft : $seconds / DateColumn::DAY <= $threshold) {
                    $left[] = $place;
                } else {
                    $right[] = $place;
                }
            }

            return [$left, $right];
        }
        if (!$column instanceof NumberColumn) {
            throw new OtherKind((string) $node->column, $column, OtherKind::NUMBERS);
        }
        $values = $column->values;
        foreach ($places as $place) {
            $v = $values[$rows[$place]];
            if ($v <= $threshold || ($node->missingLeft && is_nan($v))) {
                $left[] = $place;
            } else {
                $right[] = $place;
            }
        }

        return [$left, $right];
    }

    /** @return list<float> */
    private function weights(int $node): array
    {
        return null === $this->classes ? [$this->nodes[$node]->counts[0]] : $this->nodes[$node]->counts;
    }

    /** @return array<int, array<array-key, Part>> what the path to each node demands of each column */
    public function paths(): array
    {
        $out = [];
        /** @var list<array{int, array<array-key, Part>}> $waiting */
        $waiting = [[0, []]];
        while ([] !== $waiting) {
            [$i, $path] = array_pop($waiting);
            $node = $this->nodes[$i];
            $out[$i] = $path;
            foreach (null === $node->column ? [] : [[$node->right, false], [$node->left, true]] as [$child, $isLeft]) {
                $waiting[] = [$child, Part::narrowed($path, (string) $node->column, Part::of($node, $isLeft))];
            }
        }

        return $out;
    }

    public function sum(?int $class, int $most): ?SumOfTrees
    {
        if ($this->reading() > $most) {
            return null;
        }
        $values = self::values($this->nodes, $this->classes);
        $open = [];
        foreach ($this->nodes as $i => $node) {
            $more = !$node->isLeaf() && array_sum($this->weights($node->left)) > array_sum($this->weights($node->right));
            $open[] = [
                'column' => $node->column,
                'threshold' => $node->threshold,
                'levels' => null === $node->leftLevels ? null
                    : array_fill_keys($node->leftLevels, true) + array_fill_keys($node->rightLevels ?? [], false),
                'missing' => $node->missingLeft,
                'left' => $node->left,
                'right' => $node->right,
                'value' => $values[$i][$class ?? \count($values[$i]) - 1],
                'cover' => 0.0,
                'other' => $more,
            ];
        }

        return new SumOfTrees([new OpenTree($open)], 0.0, Scale::AsItIs);
    }

    public function columns(): array
    {
        $used = [];
        foreach ($this->nodes as $node) {
            if (null !== $node->column) {
                $used[$node->column] = true;
            }
        }

        return array_map(strval(...), array_keys($used));
    }

    public function reading(): int
    {
        return \count(array_filter($this->nodes, static fn (Node $n) => $n->isLeaf()));
    }

    public function size(): string
    {
        $leaves = $this->reading();

        return 1 === $leaves ? '1 leaf' : number_format($leaves).' leaves';
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function report(Task $task, Reported $wanted): array
    {
        return TreeReport::of($this, $task->classes, \is_string($wanted->settings['criterion'] ?? null) ? $wanted->settings['criterion'] : 'Gini');
    }

    public function toArray(): array
    {
        return ['learner' => 'tree', 'classes' => $this->classes, 'nodes' => array_map(static fn (Node $n) => $n->toArray(), $this->nodes), 'left_out' => $this->leftOut, 'notes' => $this->notes];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{classes: ?list<string>, nodes: list<array<string, mixed>>, left_out: array<array-key, string>, notes: list<string>} $data */
        return new self(array_map(Node::fromArray(...), $data['nodes']), $data['classes'], $data['left_out'], $data['notes']);
    }

    public function sentences(Table $prepared): array
    {
        $paths = $this->paths();

        return array_map(static fn (int $leaf): string => Part::path($paths[$leaf] ?? []), $this->leaves($prepared));
    }

    public function tree(): self
    {
        return $this;
    }

    public function expressions(Frame $frame): array
    {
        $classes = $this->classes();

        return \count($classes) > 2
            ? array_map(fn (int $class): Trees => $this->written($frame, $class), array_keys($classes))
            : [$this->written($frame, null)];
    }

    private function written(Frame $frame, ?int $class): Trees
    {
        $sum = $this->sum($class, \PHP_INT_MAX) ?? throw new CannotExpress('This tree answers by no sum that could be written out.');

        return OpenTree::written($sum->trees, $sum->start, $frame);
    }
}
