<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\TreeNode;
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Expression\When;

/**
 * A program as an ONNX model. Each column of the record is an input of its own, one value a record: numbers, and dates as days since 1970,
 * as doubles with NaN for missing; texts as strings, empty for missing. Thresholds of trees are doubles; their sums come as singles.
 */
final class Onnx
{
    private readonly Graph $graph;
    /** @var array<array-key, string> name in the program => name in the graph */
    private array $names = [];
    /** @var array<array-key, bool> by name in the program, whether it is a text */
    private array $texts = [];

    private function __construct(private readonly Program $program)
    {
        $this->graph = new Graph();
    }

    /** @throws CannotExpress where no column is asked for */
    public static function of(Program $program): string
    {
        if ([] === $program->inputs) {
            throw new CannotExpress('This model asks for no column, so that ONNX would not know for how many records to answer.');
        }

        return (new self($program))->written();
    }

    private function written(): string
    {
        foreach ($this->program->inputs as $name => $kind) {
            $this->texts[$name] = Frame::isText($kind);
            $this->names[$name] = (string) $name;
            $this->graph->input((string) $name, Frame::isText($kind) ? Graph::STRING : Graph::DOUBLE);
        }
        foreach ($this->program->layers as $layer) {
            $made = [];
            foreach ($layer as $name => $expression) {
                $made[$name] = $this->write($expression);
                $this->texts[$name] = $this->isText($expression);
            }
            $this->names = $made + $this->names;
        }
        foreach ($this->program->answers as $name => $of) {
            $this->graph->output((string) $name, $this->names[$of->name]);
        }

        return $this->graph->model(\sprintf('Predicts %s.', $this->program->target));
    }

    private function isText(Expression $e): bool
    {
        return match (true) {
            $e instanceof Named => $this->texts[$e->name] ?? $e->isText,
            $e instanceof Constant => \is_string($e->value),
            $e instanceof Lookup => $e->isText(),
            $e instanceof When => $this->isText($e->then) || $this->isText($e->else),
            $e instanceof Operation => Operator::Join === $e->operator,
            default => false,
        };
    }

    private function write(Expression $e, bool $asText = false): string
    {
        return match (true) {
            $e instanceof Named => $this->names[$e->name],
            $e instanceof Constant => \is_string($e->value) || $asText
                ? $this->graph->constant(Graph::STRING, [(string) $e->value])
                : $this->graph->constant(Graph::DOUBLE, [$e->value ?? \NAN]),
            $e instanceof IsMissing => $this->missing($e->of),
            $e instanceof When => $this->graph->add('Where', [
                $this->write($e->condition),
                $this->write($e->then, $this->isText($e)),
                $this->write($e->else, $this->isText($e)),
            ]),
            $e instanceof Lookup => $this->lookup($e),
            $e instanceof Trees => $this->trees($e),
            $e instanceof Operation => $this->operation($e),
            default => throw new \LogicException('There is no ONNX for '.$e::class.'.'),
        };
    }

    private function missing(Expression $of): string
    {
        if (!$this->isText($of)) {
            return $this->graph->add('IsNaN', [$this->write($of)]);
        }
        $is = $this->graph->add(
            'LabelEncoder',
            [$this->write($of)],
            ['keys_strings' => [''], 'values_int64s' => [1], 'default_int64' => 0],
            true,
        );

        return $this->graph->add('Cast', [$is], ['to' => Graph::BOOL]);
    }

    private function operation(Operation $e): string
    {
        $of = array_map($this->write(...), $e->of);
        $type = match ($e->operator) {
            Operator::Add => 'Sum',
            Operator::Times => 'Mul',
            Operator::Less => 'Sub',
            Operator::Over => 'Div',
            Operator::Least => 'Min',
            Operator::Most => 'Max',
            Operator::Exp => 'Exp',
            Operator::Log => 'Log',
            Operator::Floor => 'Floor',
            Operator::UpTo => 'LessOrEqual',
            Operator::Below => 'Less',
            Operator::And => 'And',
            Operator::Or => 'Or',
            Operator::Join => 'StringConcat',
        };
        if (\in_array($e->operator, [Operator::Add, Operator::Least, Operator::Most], true) || \count($of) < 2) {
            return $this->graph->add($type, $of);
        }

        return array_reduce(\array_slice($of, 1), fn (string $so, string $next): string => $this->graph->add($type, [$so, $next]), $of[0]);
    }

    /** Each text has a place, and each place a value: so values are as exact as doubles are. */
    private function lookup(Lookup $e): string
    {
        $isText = $e->isText();
        $plain = static fn (float|string|null $v): float|string => $v ?? ($isText ? '' : \NAN);
        $values = [$plain($e->other), $plain($e->missing)];
        $keys = [''];
        $places = [1];
        foreach ($e->pairs as [$text, $value]) {
            $keys[] = $text;
            $places[] = \count($values);
            $values[] = $value;
        }

        return $this->placed($this->write($e->of), $keys, $places, $values, $isText);
    }

    /**
     * @param list<string>       $keys
     * @param list<int>          $places
     * @param list<float|string> $values
     */
    private function placed(string $of, array $keys, array $places, array $values, bool $isText): string
    {
        $place = $this->graph->add(
            'LabelEncoder',
            [$of],
            ['keys_strings' => $keys, 'values_int64s' => $places, 'default_int64' => 0],
            true,
        );

        return $this->graph->add(
            'Gather',
            [$this->graph->constant($isText ? Graph::STRING : Graph::DOUBLE, $values, true), $place],
            ['axis' => 0],
        );
    }

    /** What nodes ask of texts becomes a column of its own: 0 where it goes left, 1 where it goes right. */
    private function trees(Trees $e): string
    {
        $features = $places = [];
        $use = static function (string $tensor) use (&$features, &$places): int {
            if (!isset($places[$tensor])) {
                $places[$tensor] = \count($features);
                $features[] = $tensor;
            }

            return $places[$tensor];
        };
        $a = ['tree' => [], 'node' => [], 'feature' => [], 'mode' => [], 'value' => [], 'true' => [], 'false' => [], 'missing' => []];
        $t = ['tree' => [], 'node' => [], 'id' => [], 'weight' => []];
        foreach ($e->trees as $tree => $nodes) {
            foreach ($nodes as $i => $node) {
                $a['tree'][] = $tree;
                $a['node'][] = $i;
                $isLeaf = null === $node->column;
                $a['feature'][] = $isLeaf ? 0 : $use($this->feature($e, $node));
                $a['mode'][] = $isLeaf ? 'LEAF' : 'BRANCH_LEQ';
                $a['value'][] = $isLeaf ? 0.0 : (null === $node->texts ? (float) $node->threshold : 0.5);
                $a['true'][] = $isLeaf ? 0 : $node->left;
                $a['false'][] = $isLeaf ? 0 : $node->right;
                $a['missing'][] = !$isLeaf && null === $node->texts && $node->missing ? 1 : 0;
                if ($isLeaf) {
                    $t['tree'][] = $tree;
                    $t['node'][] = $i;
                    $t['id'][] = 0;
                    $t['weight'][] = $node->value;
                }
            }
        }
        $axis = $this->graph->constant(Graph::INT64, [1], true);
        // Where no tree asks anything, something has to say how many records there are.
        if ([] === $features) {
            $any = (string) array_key_first($this->program->inputs);
            $features[] = $this->texts[$any] ? $this->placed($any, [''], [0], [0.0], false) : $any;
        }
        $columns = array_map(fn (string $f): string => $this->graph->add('Unsqueeze', [$f, $axis]), $features);
        $matrix = $this->graph->add('Concat', $columns, ['axis' => 1]);
        $sum = $this->graph->add('TreeEnsembleRegressor', [$matrix], [
            'n_targets' => 1,
            'aggregate_function' => 'SUM',
            'post_transform' => 'NONE',
            'base_values_as_tensor' => new Doubles([$e->start]),
            'nodes_treeids' => $a['tree'],
            'nodes_nodeids' => $a['node'],
            'nodes_featureids' => $a['feature'],
            'nodes_modes' => $a['mode'],
            'nodes_values_as_tensor' => new Doubles($a['value']),
            'nodes_truenodeids' => $a['true'],
            'nodes_falsenodeids' => $a['false'],
            'nodes_missing_value_tracks_true' => $a['missing'],
            'target_treeids' => $t['tree'],
            'target_nodeids' => $t['node'],
            'target_ids' => $t['id'],
            'target_weights_as_tensor' => new Doubles($t['weight']),
        ], true);

        return $this->graph->add('Cast', [$this->graph->add('Squeeze', [$sum, $axis])], ['to' => Graph::DOUBLE]);
    }

    private function feature(Trees $e, TreeNode $node): string
    {
        $column = $this->names[$e->columns[$node->column ?? '']->name];
        if (null === $node->texts) {
            return $column;
        }
        [$listed, $other] = $node->others ? [1.0, 0.0] : [0.0, 1.0];
        $keys = ['', ...$node->texts];

        return $this->placed(
            $column,
            $keys,
            [1, ...array_fill(0, \count($node->texts), 2)],
            [$other, $node->missing ? 0.0 : 1.0, $listed],
            false,
        );
    }
}
