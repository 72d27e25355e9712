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
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Expression\When;

/**
 * Takes sums of trees, what stands in more than one place, and what the least or the greatest is sought of, out of an expression into
 * layers before it: so each is worked out once, however often it is used, and databases that leave missing values out of "greatest" can be
 * asked whether one is missing.
 */
final class Hoist
{
    /** @var \SplObjectStorage<Expression, array{Named, int}> what stands for an expression, and how many layers that stands on */
    private \SplObjectStorage $known;
    /** @var list<array<string, Expression>> */
    private array $layers = [];
    /** @var \SplObjectStorage<Expression, int> in how many places an expression stands */
    private \SplObjectStorage $places;

    private function __construct(private readonly string $prefix)
    {
        /** @var \SplObjectStorage<Expression, array{Named, int}> $known */
        $known = new \SplObjectStorage();
        $this->known = $known;
        /** @var \SplObjectStorage<Expression, int> $places */
        $places = new \SplObjectStorage();
        $this->places = $places;
    }

    /** Each part is walked once: a network of three layers has as many ways through it as the product of their units. */
    private function count(Expression $e): void
    {
        if (isset($this->places[$e])) {
            $this->places[$e] = 1 + $this->places[$e];

            return;
        }
        $this->places[$e] = 1;
        foreach ($e->parts() as $part) {
            $this->count($part);
        }
    }

    /** Whether it is a number that is worked out, and wanted more than once. */
    private function isShared(Expression $e): bool
    {
        return 1 < ($this->places[$e] ?? 0)
            && ($e instanceof Operation && !$e->operator->isCondition() && Operator::Join !== $e->operator
                || $e instanceof Lookup && !$e->isText());
    }

    /**
     * @param non-empty-list<Expression> $answers
     *
     * @return array{list<array<string, Expression>>, non-empty-list<Expression>} layers, and the answers from them
     */
    public static function of(array $answers, string $prefix): array
    {
        $own = new self($prefix);
        foreach ($answers as $answer) {
            $own->count($answer);
        }
        $out = [];
        foreach ($answers as $answer) {
            $out[] = $own->from($answer)[0];
        }

        return [$own->layers, $out];
    }

    /** @return array{Expression, int} rewritten, and how many layers it stands on */
    private function from(Expression $e): array
    {
        if (isset($this->known[$e])) {
            return $this->known[$e];
        }
        if ($e instanceof Trees) {
            return $this->out($e, $e, 0);
        }
        [$new, $level] = $this->rewritten($e);

        return $this->isShared($e) ? $this->out($e, $new, $level) : [$new, $level];
    }

    /** @return array{Expression, int} the same on what its parts became */
    private function rewritten(Expression $e): array
    {
        $level = 0;
        $of = function (Expression $part) use (&$level): Expression {
            [$own, $on] = $this->from($part);
            $level = max($level, $on);

            return $own;
        };
        $isEnd = $e instanceof Operation && \in_array($e->operator, [Operator::Least, Operator::Most], true);
        if ($isEnd) {
            $ends = [];
            foreach ($e->of as $part) {
                [$own, $on] = $this->from($part);
                if (!$own instanceof Named && !$own instanceof Constant) {
                    [$own, $on] = $this->out($part, $own, $on);
                }
                $ends[] = $own;
                $level = max($level, $on);
            }

            return [new Operation($e->operator, $ends), $level];
        }
        $new = match (true) {
            $e instanceof Operation => new Operation($e->operator, array_map($of, $e->of)),
            $e instanceof When => new When($of($e->condition), $of($e->then), $of($e->else)),
            $e instanceof IsMissing => new IsMissing($of($e->of)),
            $e instanceof Lookup => new Lookup($of($e->of), array_column($e->pairs, 1, 0), $e->other, $e->missing),
            default => $e,
        };

        return [$new, $level];
    }

    /** @return array{Named, int} */
    private function out(Expression $as, Expression $is, int $level): array
    {
        if (!isset($this->known[$as])) {
            $this->layers[$level] ??= [];
            $name = $this->prefix.'h'.($level + 1).'_'.(\count($this->layers[$level]) + 1);
            $this->layers[$level][$name] = $is;
            $this->known[$as] = [new Named($name, false), $level + 1];
        }

        return $this->known[$as];
    }
}
