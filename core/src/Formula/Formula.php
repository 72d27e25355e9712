<?php

declare(strict_types=1);

namespace Dokimos\Core\Formula;

use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Symfony\Component\ExpressionLanguage\Lexer;
use Symfony\Component\ExpressionLanguage\Node;
use Symfony\Component\ExpressionLanguage\Parser;
use Symfony\Component\ExpressionLanguage\SyntaxError;

/**
 * A formula over the columns of a table. It is parsed once by the expression component; its tree is then computed here, a column at a
 * time. Nothing but the table and the functions listed can be reached. Rules: docs/methods/formulas.md.
 */
final readonly class Formula
{
    private const LONGEST = 4000;
    private Node\Node $tree;

    /**
     * @param list<string> $names columns it may name
     *
     * @throws WrongFormula A formula has at most … letters. Write a formula, such as days_ahead * 2.
     */
    public function __construct(public string $text, array $names)
    {
        if (\strlen($text) > self::LONGEST) {
            throw new WrongFormula(\sprintf('A formula has at most %s letters.', number_format(self::LONGEST)));
        }
        if ('' === trim($text)) {
            throw new WrongFormula('Write a formula, such as days_ahead * 2.', 0);
        }
        $functions = array_fill_keys([...array_keys(Functions::all()), 'missing', 'first_known', 'col'], []);
        try {
            // Column names that are words of the language are reached by col().
            $this->tree = (new Parser($functions))->parse(
                (new Lexer())->tokenize($text),
                array_values(
                    array_filter($names, static fn (string $n) => 1 === preg_match('/^[a-zA-Z_\x7f-\xff][a-zA-Z0-9_\x7f-\xff]*$/', $n)),
                ),
            );
        } catch (SyntaxError $e) {
            throw self::syntax($e, $names);
        }
    }

    /** @param list<string> $names */
    private static function syntax(SyntaxError $e, array $names): WrongFormula
    {
        preg_match('/^(.*?) around position (\d+)/s', $e->getMessage(), $found);
        $what = $found[1] ?? rtrim($e->getMessage(), '.');
        $at = isset($found[2]) ? max(0, (int) $found[2] - 1) : null;
        if (1 === preg_match('/^Variable "(.*)" is not valid/', $what, $name)) {
            $what = \sprintf('There is no column %s', $name[1]);
            $near = self::nearest($name[1], $names);
            $what .= null === $near ? '' : \sprintf('; did you mean %s?', $near);
        } elseif (1 === preg_match('/^The function "(.*)" does not exist/', $what, $name)) {
            $near = self::nearest($name[1], [...array_map(strval(...), array_keys(Functions::all())), 'missing', 'first_known', 'col']);
            $what = \sprintf('There is no function %s', $name[1]).(null === $near ? '' : \sprintf('; did you mean %s?', $near));
        }

        $what = rtrim($what, '.');

        return new WrongFormula(
            (null === $at ? '' : \sprintf('At letter %d: ', $at + 1)).$what.(str_ends_with($what, '?') ? '' : '.'),
            $at,
            $e,
        );
    }

    /** @param list<string> $names */
    private static function nearest(string $name, array $names): ?string
    {
        $best = null;
        $least = 3;
        foreach ($names as $other) {
            $d = levenshtein(substr(mb_strtolower($name), 0, 200), substr(mb_strtolower($other), 0, 200));
            if ($d < $least) {
                $least = $d;
                $best = $other;
            }
        }

        return $best;
    }

    /** @return list<string> the columns it names, each once */
    public function columns(): array
    {
        $found = [];
        $walk = static function (Node\Node $node) use (&$walk, &$found): void {
            if ($node instanceof Node\NameNode) {
                $found[] = self::word($node, 'name');
            }
            if ($node instanceof Node\FunctionNode && 'col' === $node->attributes['name']) {
                $argument = self::arguments($node)[0] ?? null;
                if ($argument instanceof Node\ConstantNode) {
                    $found[] = self::word($argument, 'value');
                }
            }
            foreach (self::parts($node) as $child) {
                $walk($child);
            }
        };
        $walk($this->tree);

        return array_values(array_unique($found));
    }

    private static function word(Node\Node $node, string $name): string
    {
        $word = $node->attributes[$name] ?? '';

        return \is_scalar($word) ? (string) $word : '';
    }

    private static function part(Node\Node $node, string $name): Node\Node
    {
        $part = $node->nodes[$name] ?? null;

        return $part instanceof Node\Node ? $part : throw new WrongFormula('The formula is not complete.');
    }

    /** @return list<Node\Node> */
    private static function parts(Node\Node $node): array
    {
        return array_values(array_filter($node->nodes, static fn (mixed $n) => $n instanceof Node\Node));
    }

    /** @return list<Node\Node> */
    private static function arguments(Node\FunctionNode $node): array
    {
        return self::parts(self::part($node, 'arguments'));
    }

    public function apply(Table $table): Column
    {
        return $this->cells($this->tree, $table)->column();
    }

    /**
     * @return array{Kind, Expression} the column that it makes, written out
     *
     * @throws CannotExpress where a part of it is not written out
     */
    public function expression(Frame $frame): array
    {
        return $this->written($this->tree, $frame)->made();
    }

    private function written(Node\Node $node, Frame $frame): Written
    {
        $in = fn (Node\Node $n): Written => $this->written($n, $frame);
        if ($node instanceof Node\FunctionNode) {
            $arguments = self::arguments($node);
            if ('col' === self::word($node, 'name') && ($arguments[0] ?? null) instanceof Node\ConstantNode) {
                return Written::column($frame, self::word($arguments[0], 'value'));
            }
            $of = array_map($in, $arguments);

            return 'first_known' === self::word($node, 'name') ? Written::firstKnown($of[0], $of[1]) : Written::called(
                self::word($node, 'name'),
                $of,
            );
        }
        if ($node instanceof Node\BinaryNode && \in_array(self::word($node, 'operator'), ['in', 'not in'], true)) {
            $out = null;
            foreach (self::parts(self::part($node, 'right')) as $i => $item) {
                if (1 === $i % 2) {
                    $equal = Written::binary('==', $in(self::part($node, 'left')), $in($item));
                    $out = null === $out ? $equal : Written::binary('or', $out, $equal);
                }
            }
            $out ??= Written::constant(null);

            return 'not in' === self::word($node, 'operator') ? Written::unary('not', $out) : $out;
        }

        return match (true) {
            $node instanceof Node\ConstantNode => Written::constant($node->attributes['value']),
            $node instanceof Node\NameNode => Written::column($frame, self::word($node, 'name')),
            $node instanceof Node\UnaryNode => Written::unary(self::word($node, 'operator'), $in(self::part($node, 'node'))),
            $node instanceof Node\BinaryNode => Written::binary(
                self::word($node, 'operator'),
                $in(self::part($node, 'left')),
                $in(self::part($node, 'right')),
            ),
            $node instanceof Node\ConditionalNode => Written::choose(
                $in(self::part($node, 'expr1')),
                $in(self::part($node, 'expr2')),
                $in(self::part($node, 'expr3')),
            ),
            $node instanceof Node\NullCoalesceNode => Written::firstKnown($in(self::part($node, 'expr1')), $in(self::part($node, 'expr2'))),
            default => throw new CannotExpress('A part of a formula is not written out yet.'),
        };
    }

    private function cells(Node\Node $node, Table $table): Cells
    {
        $in = fn (Node\Node $n): Cells => $this->cells($n, $table);

        return match (true) {
            $node instanceof Node\ConstantNode => self::constant($node->attributes['value'], $table->rows),
            $node instanceof Node\NameNode => self::named(self::word($node, 'name'), $table),
            $node instanceof Node\UnaryNode => Operations::unary(self::word($node, 'operator'), $in(self::part($node, 'node'))),
            $node instanceof Node\BinaryNode && \in_array(
                self::word($node, 'operator'),
                ['in', 'not in'],
                true,
            ) => $this->among($node, $in),
            $node instanceof Node\BinaryNode => Operations::binary(
                self::word($node, 'operator'),
                $in(self::part($node, 'left')),
                $in(self::part($node, 'right')),
            ),
            $node instanceof Node\ConditionalNode => Operations::choose(
                $in(self::part($node, 'expr1')),
                $in(self::part($node, 'expr2')),
                $in(self::part($node, 'expr3')),
            ),
            $node instanceof Node\NullCoalesceNode => Operations::firstKnown(
                $in(self::part($node, 'expr1')),
                $in(self::part($node, 'expr2')),
            ),
            $node instanceof Node\FunctionNode => $this->function($node, $table, $in),
            default => throw new WrongFormula('Only columns, numbers, texts, operators and the functions listed can stand in a formula.'),
        };
    }

    private static function constant(mixed $value, int $rows): Cells
    {
        return match (true) {
            null === $value => Cells::same(null, Cells::NUMBER, $rows),
            \is_bool($value) => Cells::same($value, Cells::YES_NO, $rows),
            \is_int($value), \is_float($value) => Cells::same((float) $value, Cells::NUMBER, $rows),
            \is_string($value) => Cells::same($value, Cells::TEXT, $rows),
            default => throw new WrongFormula('Only numbers, texts, true, false and null can stand in a formula.'),
        };
    }

    private static function named(string $name, Table $table): Cells
    {
        return $table->has($name) ? Cells::of($table->column($name)) : throw new WrongFormula(
            \sprintf('There is no column %s at this point.', $name),
        );
    }

    /** @param \Closure(Node\Node): Cells $in */
    private function among(Node\BinaryNode $node, \Closure $in): Cells
    {
        $list = self::part($node, 'right');
        if (!$list instanceof Node\ArrayNode) {
            throw new WrongFormula(\sprintf('After "%s" stands a list, such as ["a", "b"].', self::word($node, 'operator')));
        }
        $one = $in(self::part($node, 'left'));
        $out = null;
        // An array node holds keys and values by turns.
        foreach (self::parts($list) as $i => $item) {
            if (1 === $i % 2) {
                $equal = Operations::binary('==', $one, $in($item));
                $out = null === $out ? $equal : Operations::binary('or', $out, $equal);
            }
        }
        if (null === $out) {
            throw new WrongFormula('The list is empty.');
        }

        return 'not in' === self::word($node, 'operator') ? Operations::unary('not', $out) : $out;
    }

    /** @param \Closure(Node\Node): Cells $in */
    private function function(Node\FunctionNode $node, Table $table, \Closure $in): Cells
    {
        $name = self::word($node, 'name');
        $arguments = self::arguments($node);
        if ('col' === $name) {
            $first = $arguments[0] ?? null;
            if (1 !== \count($arguments) || !$first instanceof Node\ConstantNode || !\is_string($first->attributes['value'])) {
                throw new WrongFormula('col() takes the name of a column in quotes.');
            }

            return self::named($first->attributes['value'], $table);
        }
        $cells = array_map($in, $arguments);
        if ('missing' === $name) {
            return 1 === \count($cells) ? new Cells(
                Cells::YES_NO,
                array_map(static fn (mixed $v) => null === $v, $cells[0]->values),
            ) : throw new WrongFormula('missing() takes one argument.');
        }
        if ('first_known' === $name) {
            return 2 === \count($cells) ? Operations::firstKnown(...$cells) : throw new WrongFormula('first_known() takes two arguments.');
        }

        return Operations::called($name, $cells, $table->rows);
    }
}
