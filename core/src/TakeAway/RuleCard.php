<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Expression\AsExpression;
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
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/**
 * A tree, or a list of rules, on a card that a person can follow by hand: one question a line, what follows from it indented, answers
 * behind arrows. CardReader follows it by the text alone.
 */
final readonly class RuleCard
{
    private const DIGITS = 8;

    /** @param Frame $frame the columns that it reads */
    private function __construct(private Frame $frame)
    {
    }

    /** Whether a model is one that is read from above to below. */
    public static function fits(ScoringModel $scoring): bool
    {
        try {
            self::lines($scoring, Program::prepared($scoring));

            return true;
        } catch (CannotExpress) {
            return false;
        }
    }

    /**
     * @return array{string, Frame} the card, and the columns it reads
     *
     * @throws CannotExpress where the model adds up instead of asking
     */
    public static function of(ScoringModel $scoring): array
    {
        $frame = Program::prepared($scoring);
        $lines = self::lines($scoring, $frame);
        $steps = array_map(static fn ($step): string => '- '.$step->sentence(), $scoring->preparation->steps);
        $classes = $scoring->classes();
        $answers = match (true) {
            [] !== $classes && \count($classes) > 2 => 'chances of '.implode(', ', $classes),
            Task::NUMBER === $scoring->task => $scoring->target,
            default => \sprintf('the chance that %s is %s', $scoring->target, $scoring->event),
        };

        return [implode("\n", [
            \sprintf('Rule card: %s.', $answers),
            'Begin at the first line. Where it holds, go on with the lines set in below it;',
            'where it does not, with the next line set in as far.',
            ...([] === $frame->out ? [] : ['Some records have no answer: the steps below say which.']),
            [] === $steps ? 'It reads the columns as they come.' : 'It reads the columns as these steps leave them:',
            ...$steps,
            '',
            ...$lines,
            '',
        ]), $frame];
    }

    /** @return list<string> */
    private static function lines(ScoringModel $scoring, Frame $frame): array
    {
        if (!$scoring->model instanceof AsExpression) {
            throw new CannotExpress('A model of this kind is no list of questions.');
        }
        $own = new self($frame);
        $raw = $scoring->model->expressions($frame);
        $values = [];
        $lines = $own->written($raw, 0, $values);
        $answers = new Answers(array_merge(...$values), \count($raw));
        $answers = $scoring->back?->of($answers) ?? $answers;
        $answers = $scoring->calibrated?->of($answers) ?? $answers;

        return array_map(static function (string $line) use ($answers): string {
            $parts = explode("\0", $line);

            return 1 === \count($parts) ? $line : $parts[0].'→ '.implode(', ', array_map(
                static fn (float $v): string => \sprintf('%.'.self::DIGITS.'g', $v),
                $answers->of((int) $parts[1]),
            ));
        }, $lines);
    }

    /**
     * @param non-empty-list<Expression> $of     one a class
     * @param list<list<float>>          $values of the answers so far
     *
     * @return list<string> an answer as the place of its values, behind a zero byte
     */
    private function written(array $of, int $depth, array &$values): array
    {
        $pad = str_repeat('  ', $depth);
        $first = $of[0];
        if ($first instanceof Trees) {
            return $this->tree($of, 0, $depth, $values);
        }
        if ($first instanceof When) {
            [$then, $else] = [[], []];
            foreach ($of as $e) {
                if (!$e instanceof When) {
                    throw new CannotExpress('The classes are told apart by other questions.');
                }
                [$then[], $else[]] = [$e->then, $e->else];
            }

            return [
                $pad.$this->asked($first->condition),
                ...$this->written($then, $depth + 1, $values),
                // The next rule stands below the one before it.
                ...($else[0] instanceof When ? [] : [$pad.'otherwise']),
                ...$this->written($else, $else[0] instanceof When ? $depth : $depth + 1, $values),
            ];
        }
        $own = [];
        foreach ($of as $e) {
            $isAnswer = $e instanceof Constant && \is_float($e->value);
            $own[] = $isAnswer ? $e->value : throw new CannotExpress('This model adds up instead of asking.');
        }
        $values[] = $own;

        return [$pad."\0".(\count($values) - 1)];
    }

    /**
     * @param non-empty-list<Expression> $of     the same tree with other values
     * @param list<list<float>>          $values
     *
     * @return list<string>
     */
    private function tree(array $of, int $at, int $depth, array &$values): array
    {
        $pad = str_repeat('  ', $depth);
        $own = [];
        $tree = null;
        foreach ($of as $e) {
            if (!$e instanceof Trees || 1 !== \count($e->trees) || !isset($e->trees[0][$at])) {
                throw new CannotExpress('Several trees are added up, which no card holds.');
            }
            $tree ??= $e;
            $own[] = $e->start + $e->trees[0][$at]->value;
        }
        $node = $tree->trees[0][$at];
        if (null === $node->column) {
            $values[] = $own;

            return [$pad."\0".(\count($values) - 1)];
        }

        return [
            $pad.$this->node($node, $tree->columns[$node->column]),
            ...$this->tree($of, $node->left, $depth + 1, $values),
            $pad.'otherwise',
            ...$this->tree($of, $node->right, $depth + 1, $values),
        ];
    }

    private function node(TreeNode $node, Named $column): string
    {
        $name = $this->name($column);
        $missing = $node->missing ? ', or missing' : '';
        if (null !== $node->texts) {
            return $name.($node->others ? ' is none of: ' : ' is one of: ').self::listed($node->texts).$missing;
        }

        return match ($node->threshold) {
            \INF => $name.' is known'.$missing,
            -\INF => $name.' is missing',
            default => $name.' is up to '.$this->number($column, (float) $node->threshold).$missing,
        };
    }

    private function asked(Expression $e): string
    {
        if ($e instanceof IsMissing && $e->of instanceof Named) {
            return $this->name($e->of).' is missing';
        }
        if ($e instanceof Operation && Operator::Or === $e->operator && ($e->of[1] ?? null) instanceof IsMissing) {
            return '('.$this->asked($e->of[0]).', or missing)';
        }
        if ($e instanceof Operation && Operator::And === $e->operator) {
            [$low, $high] = [$e->of[0], $e->of[1] ?? null];
            // Both ends of a stretch are one question.
            if ($low instanceof Operation && $high instanceof Operation && Operator::Below === $low->operator
                && Operator::UpTo === $high->operator && $low->of[1] instanceof Named && $low->of[1] === $high->of[0]) {
                $end = $high->of[1] instanceof Constant ? ' and up to '.$this->number($low->of[1], (float) $high->of[1]->value) : '';

                return $this->asked($low).$end;
            }

            return implode(' and ', array_map($this->asked(...), $e->of));
        }
        [$a, $b] = $e instanceof Operation ? [$e->of[0], $e->of[1] ?? null] : [null, null];

        return match (true) {
            $b instanceof Lookup && $b->of instanceof Named => $this->name($b->of).' is one of: '.self::listed(array_column($b->pairs, 0)),
            $a instanceof Constant && $b instanceof Named => $this->name($b).' is over '.$this->number($b, (float) $a->value),
            $a instanceof Named && $b instanceof Constant => $this->name($a).' is up to '.$this->number($a, (float) $b->value),
            $a instanceof Named && $b instanceof Named => $this->name($a).' is known',
            default => throw new CannotExpress('This model asks what no card can hold.'),
        };
    }

    private function name(Named $column): string
    {
        foreach ($this->frame->columns as $name => $own) {
            if ($own->name === $column->name) {
                return self::quoted((string) $name);
            }
        }

        return self::quoted($column->name);
    }

    private function number(Named $column, float $v): string
    {
        foreach ($this->frame->columns as $name => $own) {
            if ($own->name === $column->name && Kind::Date === $this->frame->kind((string) $name)) {
                return \sprintf('%.17G (%s)', $v, gmdate('j M Y', (int) floor($v * DateColumn::DAY)));
            }
        }

        return (string) json_encode($v);
    }

    /** @param list<string> $texts */
    private static function listed(array $texts): string
    {
        return implode(', ', array_map(self::quoted(...), $texts));
    }

    private static function quoted(string $text): string
    {
        return (string) json_encode($text, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
    }
}
