<?php

declare(strict_types=1);

namespace Dokimos\Core\Formula;

use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Days;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;

/** A part of a formula, written out. Yes and no are 1 and 0 on the way; dates are days since 1970. */
final readonly class Written
{
    /** @param ?string $type of Cells; null = missing, which is of any */
    private function __construct(public ?string $type, public Expression $is)
    {
    }

    public static function constant(mixed $value): self
    {
        return match (true) {
            null === $value => new self(null, new Constant(null)),
            \is_bool($value) => new self(Cells::YES_NO, new Constant($value ? 1.0 : 0.0)),
            \is_int($value), \is_float($value) => new self(Cells::NUMBER, new Constant((float) $value)),
            \is_string($value) => new self(Cells::TEXT, new Constant('' === $value ? null : $value)),
            default => throw new CannotExpress('A formula holds what is no number and no text.'),
        };
    }

    public static function column(Frame $frame, string $name): self
    {
        $own = $frame->column($name);

        return match ($frame->kind($name)) {
            Kind::Number => new self(Cells::NUMBER, $own),
            Kind::Date => new self(Cells::DATE, $own),
            Kind::YesNo => new self(Cells::YES_NO, new Lookup($own, self::spelledYes(), 0.0)),
            default => new self(Cells::TEXT, $own),
        };
    }

    /** @return array<array-key, float> */
    private static function spelledYes(): array
    {
        $out = [];
        foreach (['yes', 'y', 'true', 't', '1', 'ja', 'oui', 'si', 'sí'] as $word) {
            $out += [$word => 1.0, mb_convert_case($word, \MB_CASE_TITLE) => 1.0, mb_strtoupper($word) => 1.0];
        }

        return $out;
    }

    public static function unary(string $operator, self $a): self
    {
        return match ($operator) {
            'not', '!' => new self(Cells::YES_NO, Operation::of(Operator::Less, new Constant(1.0), $a->is)),
            '-' => new self(Cells::NUMBER, Operation::of(Operator::Less, new Constant(0.0), $a->is)),
            '+' => $a,
            default => throw self::cannot($operator),
        };
    }

    public static function binary(string $operator, self $a, self $b): self
    {
        return match ($operator) {
            '+' => new self(Cells::NUMBER, Operation::of(Operator::Add, $a->is, $b->is)),
            '-' => new self(Cells::NUMBER, Operation::of(Operator::Less, $a->is, $b->is)),
            '*' => new self(Cells::NUMBER, Operation::of(Operator::Times, $a->is, $b->is)),
            '/' => new self(Cells::NUMBER, self::divided($a->is, $b->is)),
            '==', '===', '!=', '!==', '<', '<=', '>', '>=' => self::compared($operator, $a, $b),
            'and', '&&' => new self(Cells::YES_NO, self::both($a->is, $b->is)),
            'or', '||' => self::unary('not', new self(
                Cells::YES_NO,
                self::both(self::unary('not', $a)->is, self::unary('not', $b)->is),
            )),
            'xor' => self::compared('!=', $a, $b),
            default => throw self::cannot($operator),
        };
    }

    /** Nothing can be divided by zero: the result is missing. */
    private static function divided(Expression $a, Expression $b): Expression
    {
        $zero = Operation::of(
            Operator::And,
            Operation::of(Operator::UpTo, $b, new Constant(0.0)),
            Operation::of(Operator::UpTo, new Constant(0.0), $b),
        );

        return new When($zero, new Constant(null), Operation::of(Operator::Over, $a, new When($zero, new Constant(1.0), $b)));
    }

    private static function both(Expression $a, Expression $b): Expression
    {
        $no = Operation::of(
            Operator::Or,
            Operation::of(Operator::Below, $a, new Constant(0.5)),
            Operation::of(Operator::Below, $b, new Constant(0.5)),
        );

        return new When($no, new Constant(0.0), self::ofKnown([$a, $b], new Constant(1.0)));
    }

    /** @param list<Expression> $of */
    private static function ofKnown(array $of, Expression $then): Expression
    {
        foreach (array_reverse($of) as $one) {
            if (!$one instanceof Constant || null === $one->value) {
                $then = new When(new IsMissing($one), new Constant(null), $then);
            }
        }

        return $then;
    }

    private static function yes(Expression $condition): When
    {
        return new When($condition, new Constant(1.0), new Constant(0.0));
    }

    private static function compared(string $operator, self $a, self $b): self
    {
        $isEqual = \in_array($operator, ['==', '===', '!=', '!=='], true);
        if (Cells::TEXT === $a->type && Cells::TEXT === $b->type) {
            [$of, $text] = $a->is instanceof Constant ? [$b->is, $a->is] : [$a->is, $b->is];
            if (!$isEqual || !$text instanceof Constant || $of instanceof Constant) {
                throw new CannotExpress('Two texts are compared, which is not written out yet.');
            }
            $is = new Lookup($of, [(string) $text->value => 1.0], 0.0);

            return '=' === $operator[0] ? new self(Cells::YES_NO, $is) : self::unary('not', new self(Cells::YES_NO, $is));
        }
        [$x, $y] = [$a->like($b)->is, $b->like($a)->is];
        $upTo = Operation::of(Operator::UpTo, $x, $y);
        $from = Operation::of(Operator::UpTo, $y, $x);
        $holds = self::yes(match ($operator) {
            '<' => Operation::of(Operator::Below, $x, $y),
            '<=' => $upTo,
            '>' => Operation::of(Operator::Below, $y, $x),
            '>=' => $from,
            default => Operation::of(Operator::And, $upTo, $from),
        });
        $is = new self(Cells::YES_NO, self::ofKnown([$x, $y], $holds));

        return '!' === $operator[0] ? self::unary('not', $is) : $is;
    }

    /** A text beside a date is read as one. */
    private function like(self $other): self
    {
        return Cells::TEXT === $this->type && Cells::DATE === $other->type ? self::called('date', [$this]) : $this;
    }

    public static function choose(self $if, self $then, self $else): self
    {
        $so = new When(Operation::of(Operator::Below, new Constant(0.5), $if->is), $then->is, $else->is);

        return new self($then->type ?? $else->type, self::ofKnown([$if->is], $so));
    }

    public static function firstKnown(self $a, self $b): self
    {
        return new self($a->type ?? $b->type, new When(new IsMissing($a->is), $b->is, $a->is));
    }

    /** @param list<self> $of */
    public static function called(string $name, array $of): self
    {
        $x = $of[0]->is ?? new Constant(null);
        $y = $of[1]->is ?? new Constant(null);
        $zero = new Constant(0.0);
        $number = static fn (Expression $e): self => new self(Cells::NUMBER, $e);
        $minus = Operation::of(Operator::Less, $zero, $x);
        $positive = Operation::of(Operator::Below, $zero, $x);
        $negative = Operation::of(Operator::Below, $x, $zero);
        // Where it is asked for a logarithm, it is of a number that has one.
        $log = Operation::of(Operator::Log, new When($positive, $x, new Constant(1.0)));

        return match ($name) {
            'missing' => new self(Cells::YES_NO, self::yes(new IsMissing($x))),
            'abs' => $number(new When($negative, $minus, $x)),
            'floor' => $number(Operation::of(Operator::Floor, $x)),
            'ceil' => $number(Operation::of(Operator::Less, $zero, Operation::of(Operator::Floor, $minus))),
            'sqrt' => $number(new When($positive, Operation::of(
                Operator::Exp,
                Operation::of(Operator::Times, new Constant(0.5), $log),
            ), new When(
                $negative,
                new Constant(null),
                Operation::of(Operator::Times, $x, $zero),
            ))),
            'ln' => $number(new When($positive, $log, new Constant(null))),
            'log10' => $number(new When($positive, Operation::of(Operator::Over, $log, new Constant(log(10))), new Constant(null))),
            'exp' => $number(new When(
                Operation::of(Operator::Below, new Constant(709.78), $x),
                new Constant(null),
                Operation::of(Operator::Exp, new When(
                    Operation::of(Operator::Below, $x, new Constant(-700.0)),
                    new Constant(-700.0),
                    new When(Operation::of(Operator::Below, new Constant(709.78), $x), $zero, $x),
                )),
            )),
            'sign' => $number(
                new When($positive, new Constant(1.0), new When($negative, new Constant(-1.0), Operation::of(Operator::Times, $x, $zero))),
            ),
            'min' => $number(Operation::of(Operator::Least, $x, $y)),
            'max' => $number(Operation::of(Operator::Most, $x, $y)),
            'between' => self::binary('and', self::compared('>=', $of[0], $of[1]), self::compared('<=', $of[0], $of[2])),
            'date' => new self(Cells::DATE, new Constant(self::day($of[0]->is))),
            'days' => $number(Operation::of(Operator::Less, $of[1]->like($of[0])->is, $of[0]->like($of[1])->is)),
            'year' => $number((new Days($x))->year()),
            'month' => $number((new Days($x))->month()),
            'day' => $number((new Days($x))->day()),
            'hour' => $number((new Days($x))->hour()),
            'weekday' => $number((new Days($x))->weekday()),
            default => throw self::cannot($name.'()'),
        };
    }

    private static function day(Expression $text): float
    {
        $seconds = $text instanceof Constant && \is_string($text->value) ? (new CellParser())->date($text->value) : null;

        return null === $seconds ? throw self::cannot('date() of a column') : $seconds / DateColumn::DAY;
    }

    /** @return array{Kind, Expression} as a column */
    public function made(): array
    {
        return match ($this->type) {
            Cells::YES_NO => [Kind::YesNo, self::ofKnown([$this->is], new When(
                Operation::of(Operator::Below, new Constant(0.5), $this->is),
                new Constant('yes'),
                new Constant('no'),
            ))],
            Cells::DATE => [Kind::Date, $this->is],
            Cells::TEXT => [Kind::Category, $this->is],
            default => [Kind::Number, $this->is],
        };
    }

    private static function cannot(string $what): CannotExpress
    {
        return new CannotExpress(\sprintf('A formula uses %s, which is not written out yet.', $what));
    }
}
