<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\TreeNode;
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Table\Kind;

/**
 * A program as one statement of SQL: a named query for each layer, since databases nest only so deep, trees as nested cases, long sums in
 * halves.
 */
final class Sql
{
    private Asks $asks;

    /**
     * @param list<string>          $keys    columns of the table that come along
     * @param array<string, string> $columns input => column of the table; an input without one is missing
     * @param list<string>          $numbers columns of the table that hold numbers by their type
     * @param ?NodeTable            $nodes   where trees are rows instead of cases
     */
    public function __construct(
        private readonly Program $program,
        private readonly Dialect $dialect,
        private readonly array $keys = [],
        private readonly ?array $columns = null,
        private readonly array $numbers = [],
        private readonly ?NodeTable $nodes = null,
    ) {
    }

    /**
     * @param string $from a table, written as the database reads it, or a query in brackets
     *
     * @return string a query that gives the keys, then the answers
     */
    public function select(string $from): string
    {
        $d = $this->dialect;
        $keys = array_map(static fn (int $i): string => 'k'.($i + 1), array_keys($this->keys));
        $own = array_map(static fn (string $k, string $as): string => $d->name($k).' AS '.$as, $this->keys, $keys);
        foreach ($this->inputs() as $name => $as) {
            $kind = $this->program->inputs[$name];
            $column = null === $this->columns ? (string) $name : $this->columns[$name] ?? null;
            $own[] = match (true) {
                null === $column => $d->missing(Kind::Number !== $kind && Kind::Date !== $kind),
                Kind::Number === $kind && \in_array($column, $this->numbers, true) => $d->readsNumber($column),
                default => $d->read($column, $kind),
            }.' AS '.$as;
        }
        $queries = ['l0 AS (SELECT '.implode(",\n    ", $own)."\n  FROM $from".$d->fence().')'];
        $held = [...$keys, ...array_values($this->inputs())];
        $from = 'l0';
        foreach ($this->program->layers as $i => $layer) {
            $lines = $held;
            $trees = array_values(array_filter($layer, fn (Expression $e): bool => $e instanceof Trees && null === $this->nodes));
            $this->asks = new Asks($d, $trees, $this->named(...));
            if ([] !== $this->asks->columns()) {
                $with = implode(",\n    ", [...$held, ...$this->asks->columns()]);
                $queries[] = "asked$i AS (SELECT $with\n  FROM $from".$d->fence().')';
                $from = "asked$i";
            }
            foreach ($layer as $name => $expression) {
                $lines[] = $this->write($expression).' AS '.$name;
                $held[] = $name;
            }
            $queries[] = 'l'.($i + 1).' AS (SELECT '.implode(",\n    ", $lines)."\n  FROM $from".$d->fence().')';
            $from = 'l'.($i + 1);
        }
        $answers = array_map(static fn (string $k, string $as): string => $as.' AS '.$d->name($k), $this->keys, $keys);
        foreach ($this->program->answers as $name => $of) {
            $answers[] = $of->name.' AS '.$d->name($name);
        }

        return 'WITH '.implode(",\n", $queries)."\nSELECT ".implode(', ', $answers).' FROM '.$from;
    }

    /** @return array<array-key, string> input => the name it has inside */
    private function inputs(): array
    {
        $out = [];
        foreach (array_keys($this->program->inputs) as $i => $name) {
            $out[$name] = 'i'.($i + 1);
        }

        return $out;
    }

    private function named(Named $n): string
    {
        return $this->inputs()[$n->name] ?? $n->name;
    }

    private function write(Expression $e): string
    {
        $d = $this->dialect;

        return match (true) {
            $e instanceof Named => $this->named($e),
            $e instanceof Constant => match (true) {
                \is_string($e->value) => $d->text($e->value),
                null === $e->value || is_nan($e->value) => 'NULL',
                default => $d->number($e->value),
            },
            $e instanceof IsMissing => '('.$this->write($e->of).') IS NULL',
            $e instanceof When => $this->when($e),
            $e instanceof Lookup => $this->lookup($e),
            $e instanceof Trees => $this->trees($e),
            $e instanceof Operation => $this->operation($e),
            default => throw new \LogicException('There is no SQL for '.$e::class.'.'),
        };
    }

    /** What else there is stands in the same case: databases nest no deeper than some twenty. */
    private function when(When $e): string
    {
        $whens = '';
        for ($at = $e; $at instanceof When; $at = $at->else) {
            $whens .= ' WHEN '.$this->write($at->condition).' THEN '.$this->write($at->then);
        }

        return 'CASE'.$whens.' ELSE '.$this->write($at).' END';
    }

    private function lookup(Lookup $e): string
    {
        $isText = $e->isText();
        $value = fn (float|string|null $v): string => null === $v
            ? $this->dialect->missing($isText)
            : (\is_string($v) ? $this->dialect->text($v) : $this->dialect->number($v));
        $of = $this->write($e->of);
        // Texts with the same value share a line.
        $by = [];
        foreach ($e->pairs as [$text, $v]) {
            $by[$value($v)][] = $this->dialect->text($text);
        }
        $lines = ["WHEN $of IS NULL THEN ".$value($e->missing)];
        foreach ($by as $v => $texts) {
            $lines[] = 'WHEN '.$of.(1 === \count($texts) ? ' = '.$texts[0] : ' IN ('.implode(', ', $texts).')').' THEN '.$v;
        }

        return 'CASE '.implode(' ', $lines).' ELSE '.$value($e->other).' END';
    }

    private function operation(Operation $e): string
    {
        $of = [];
        foreach ($e->of as $part) {
            $of[] = $this->write($part);
        }

        return match ($e->operator) {
            Operator::Add => self::halves($of, '+'),
            Operator::Times => self::halves($of, '*'),
            Operator::Less => '('.$of[0].' - '.$of[1].')',
            Operator::Over => '('.$of[0].' / '.$of[1].')',
            Operator::Least => $this->dialect->least($of),
            Operator::Most => $this->dialect->greatest($of),
            Operator::Exp => 'EXP('.$of[0].')',
            Operator::Log => 'LN('.$of[0].')',
            Operator::Floor => 'FLOOR('.$of[0].')',
            Operator::UpTo => '('.$of[0].' <= '.$of[1].')',
            Operator::Below => '('.$of[0].' < '.$of[1].')',
            Operator::And => '('.implode(' AND ', $of).')',
            Operator::Or => '('.implode(' OR ', $of).')',
            Operator::Join => '('.implode(' || ', $of).')',
        };
    }

    /**
     * A sum of hundreds in halves of halves: databases nest no deeper than some thousand.
     *
     * @param list<string> $of at least one
     */
    private static function halves(array $of, string $by): string
    {
        $n = \count($of);
        if (1 === $n) {
            return $of[0];
        }
        $middle = $n >> 1;

        return '('.self::halves(\array_slice($of, 0, $middle), $by)." $by ".self::halves(\array_slice($of, $middle), $by).')';
    }

    private function trees(Trees $e): string
    {
        $columns = array_map($this->named(...), $e->columns);
        if (null !== $this->nodes) {
            return $this->nodes->sum($e, $columns);
        }
        $of = [$this->dialect->number($e->start)];
        foreach ($e->trees as $tree) {
            $of[] = $this->tree($tree, 0, $columns, self::depths($tree));
        }

        return self::halves($of, '+');
    }

    /**
     * How deep cases have to be nested below each node when the deeper side always stays in the same case: SQLite reads some twenty at
     * most.
     *
     * @param list<TreeNode> $tree
     *
     * @return array<int, int>
     */
    private static function depths(array $tree): array
    {
        /** @var array<int, int> $depths */
        $depths = [];
        // Children stand behind their parents.
        for ($i = \count($tree) - 1; $i >= 0; --$i) {
            $node = $tree[$i];
            if (null === $node->column) {
                $depths[$i] = 0;
                continue;
            }
            $l = (int) ($depths[$node->left] ?? 0);
            $r = (int) ($depths[$node->right] ?? 0);
            $depths[$i] = $l === $r ? $l + 1 : max($l, $r);
        }

        return $depths;
    }

    /**
     * @param list<TreeNode>           $tree
     * @param array<array-key, string> $columns
     * @param array<int, int>          $depths
     */
    private function tree(array $tree, int $at, array $columns, array $depths): string
    {
        $whens = '';
        while (null !== $tree[$at]->column) {
            $node = $tree[$at];
            $turned = $depths[$node->left] > $depths[$node->right];
            $whens .= ' WHEN '.$this->asks->of($node, $columns[$node->column])[$turned ? 1 : 0].' THEN '.$this->tree(
                $tree,
                $turned ? $node->right : $node->left,
                $columns,
                $depths,
            );
            $at = $turned ? $node->left : $node->right;
        }
        $value = $this->dialect->number($tree[$at]->value);

        return '' === $whens ? $value : "\nCASE".$whens.' ELSE '.$value.' END';
    }
}
