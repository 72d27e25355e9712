<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** Arithmetic, a comparison, or conditions together. */
final readonly class Operation implements Expression
{
    /**
     * @param non-empty-list<Expression> $of one for exp and log, any number for sums, products, least, greatest, and, or, join; else two
     */
    public function __construct(public Operator $operator, public array $of)
    {
    }

    public static function of(Operator $operator, Expression ...$of): self
    {
        return new self($operator, [] === $of ? throw new \LogicException('An operation needs something to work on.') : array_values($of));
    }

    /** @param list<Expression> $terms */
    public static function sum(array $terms): Expression
    {
        return match (\count($terms)) {
            0 => new Constant(0.0),
            1 => $terms[0],
            default => new self(Operator::Add, $terms),
        };
    }

    /** The chance that log-odds stand for: 1 / (1 + exp(-x)). */
    public static function chance(Expression $odds): self
    {
        $one = new Constant(1.0);
        $less = self::of(Operator::Times, new Constant(-1.0), $odds);
        // Beyond this a double has no more of it, and some databases refuse.
        $held = self::of(Operator::Most, self::of(Operator::Least, $less, new Constant(700.0)), new Constant(-700.0));

        return self::of(Operator::Over, $one, self::of(Operator::Add, $one, self::of(Operator::Exp, $held)));
    }

    public function parts(): array
    {
        return $this->of;
    }

    /** @return array{operator: string, of: list<Expression>} */
    public function jsonSerialize(): array
    {
        return ['operator' => $this->operator->value, 'of' => $this->of];
    }
}
