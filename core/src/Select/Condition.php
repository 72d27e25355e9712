<?php

declare(strict_types=1);

namespace Dokimos\Core\Select;

use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/**
 * One question to a column: "days_ahead is over 9". A missing cell answers yes to "is missing" alone, also where the question is
 * "is not": what is not known is not said to differ.
 */
final readonly class Condition
{
    /**
     * @param list<string> $values
     *
     * @throws UnclearCondition "… …" takes …
     */
    public function __construct(public string $column, public Relation $relation, public array $values = [])
    {
        [$least, $most] = $relation->values();
        if (\count($values) < $least || \count($values) > $most) {
            throw new UnclearCondition(
                \sprintf(
                    '"%s %s" takes %s.',
                    $column,
                    $relation->value,
                    match (true) {
                        0 === $most => 'no value',
                        $least !== $most => \sprintf('one to %d values', $most),
                        default => 1 === $most ? 'one value' : 'two values',
                    },
                ),
            );
        }
    }

    public function sentence(): string
    {
        return trim(
            $this->column.' '.$this->relation->value.' '.implode(Relation::Between === $this->relation ? ' and ' : ', ', $this->values),
        );
    }

    /**
     * One answer per row: true where the condition holds.
     *
     * @param bool $strict a value that the column never holds is an error
     *
     * @return list<bool>
     *
     * @throws UnclearCondition … holds …; ask whether it …
     */
    public function holds(Column $cells, bool $strict = true): array
    {
        if (!\in_array($this->relation, Relation::for($cells->kind()), true)) {
            throw new UnclearCondition(
                \sprintf(
                    '%s holds %s; ask whether it %s.',
                    $this->column,
                    $cells->kind()->value,
                    implode(', ', array_map(static fn (Relation $r) => $r->value, Relation::for($cells->kind()))),
                ),
            );
        }
        if (Relation::Missing === $this->relation || Relation::Present === $this->relation) {
            return self::missing($cells, Relation::Missing === $this->relation);
        }

        return match (true) {
            $cells instanceof NumberColumn => $this->numbers($cells),
            $cells instanceof DateColumn => $this->dates($cells),
            $cells instanceof CodedColumn => $this->codes($cells, $strict),
            default => $this->texts($cells),
        };
    }

    /**
     * The same of a column that is written out.
     *
     * @throws CannotExpress where it looks into free text
     */
    public function expression(Named $own, Kind $kind): Expression
    {
        $missing = new IsMissing($own);
        if (Relation::Missing === $this->relation) {
            return $missing;
        }
        $one = new Constant(1.0);
        if (Relation::Present === $this->relation) {
            return Operation::of(Operator::Below, new When($missing, $one, new Constant(0.0)), new Constant(0.5));
        }
        if (Frame::isText($kind)) {
            $isOther = \in_array($this->relation, [Relation::IsNot, Relation::NoneOf], true);
            if (Kind::Text === $kind || !$isOther && !\in_array($this->relation, [Relation::Is, Relation::OneOf], true)) {
                throw new CannotExpress(
                    \sprintf('Rows are kept by what stands in the text of %s, which is not written out.', $this->column),
                );
            }
            [$in, $out] = $isOther ? [0.0, 1.0] : [1.0, 0.0];

            return Operation::of(Operator::Below, new Constant(0.5), new Lookup($own, array_fill_keys($this->values, $in), $out, 0.0));
        }
        [$low, $high] = Kind::Date === $kind
            ? array_map(static fn (int $s): float => $s / DateColumn::DAY, $this->span())
            : $this->bounds();
        $from = Operation::of(Operator::UpTo, new Constant($low), $own);
        $to = Operation::of(Operator::UpTo, $own, new Constant($high));
        $below = Operation::of(Operator::Below, $own, new Constant($low));
        $above = Operation::of(Operator::Below, new Constant($high), $own);

        return match ($this->relation) {
            Relation::Over, Relation::After => $above,
            Relation::AtLeast, Relation::OnOrAfter => $from,
            Relation::Under, Relation::Before => $below,
            Relation::AtMost, Relation::OnOrBefore => $to,
            Relation::IsNot => Operation::of(Operator::Or, $below, $above),
            default => Operation::of(Operator::And, $from, $to),
        };
    }

    /** @return list<bool> */
    private static function missing(Column $cells, bool $wanted): array
    {
        $out = [];
        for ($row = 0, $rows = $cells->count(); $row < $rows; ++$row) {
            $out[] = $cells->isMissing($row) === $wanted;
        }

        return $out;
    }

    /** @return array{float, float} the least and the greatest number that are named */
    private function bounds(): array
    {
        $parser = new CellParser();
        $given = array_map(
            fn (string $v) => $parser->number($v) ?? throw new UnclearCondition(
                \sprintf('"%s" is not a number; %s holds numbers.', $v, $this->column),
            ),
            $this->values,
        );

        return [min($given[0], $given[1] ?? $given[0]), max($given[0], $given[1] ?? $given[0])];
    }

    /** @return list<bool> */
    private function numbers(NumberColumn $cells): array
    {
        [$low, $high] = $this->bounds();
        $a = $low;
        // Kernel: a comparison per relation, so that the loop has no choice to make. NAN is not equal, over or under anything.
        $out = [];
        switch ($this->relation) {
            case Relation::Over:
                foreach ($cells->values as $v) {
                    $out[] = $v > $a;
                }
                break;
            case Relation::AtLeast:
                foreach ($cells->values as $v) {
                    $out[] = $v >= $a;
                }
                break;
            case Relation::Under:
                foreach ($cells->values as $v) {
                    $out[] = $v < $a;
                }
                break;
            case Relation::AtMost:
                foreach ($cells->values as $v) {
                    $out[] = $v <= $a;
                }
                break;
            case Relation::IsNot:
                foreach ($cells->values as $v) {
                    $out[] = $v === $v && $v !== $a;
                }
                break;
            default:
                foreach ($cells->values as $v) {
                    $out[] = $v >= $low && $v <= $high;
                }
        }

        return $out;
    }

    /**
     * A day without a time stands for all of that day.
     *
     * @return array{int, int} seconds: the first and the last
     */
    private function span(): array
    {
        $parser = new CellParser();
        $spans = array_map(static function (string $v) use ($parser): array {
            $from = $parser->date($v) ?? throw new UnclearCondition(\sprintf('"%s" is not a date; write it as 2026-03-14.', $v));

            return [$from, str_contains($v, ':') ? $from : $from + DateColumn::DAY - 1];
        }, $this->values);
        [$first, $last] = $spans[0];
        if (Relation::Between === $this->relation) {
            $first = min($first, $spans[1][0]);
            $last = max($last, $spans[1][1]);
        }

        return [$first, $last];
    }

    /** @return list<bool> */
    private function dates(DateColumn $cells): array
    {
        [$first, $last] = $this->span();
        [$low, $high] = match ($this->relation) {
            Relation::After => [$last + 1, \PHP_INT_MAX],
            Relation::OnOrAfter => [$first, \PHP_INT_MAX],
            Relation::Before => [\PHP_INT_MIN + 1, $first - 1],
            Relation::OnOrBefore => [\PHP_INT_MIN + 1, $last],
            default => [$first, $last],
        };
        $inside = Relation::IsNot !== $this->relation;
        $out = [];
        foreach ($cells->seconds as $s) {
            $out[] = DateColumn::MISSING !== $s && ($s >= $low && $s <= $high) === $inside;
        }

        return $out;
    }

    /** @return list<bool> */
    private function codes(CodedColumn $cells, bool $strict): array
    {
        $wanted = [];
        foreach ($this->values as $value) {
            $code = array_search($value, $cells->levels, true);
            if (false === $code) {
                if (!$strict) {
                    continue;
                }
                throw new UnclearCondition(\sprintf('%s is never "%s".', $this->column, $value));
            }
            $wanted[$code] = true;
        }
        $inside = Relation::Is === $this->relation || Relation::OneOf === $this->relation;
        $out = [];
        foreach ($cells->codes as $code) {
            $out[] = $code >= 0 && isset($wanted[$code]) === $inside;
        }

        return $out;
    }

    /** @return list<bool> */
    private function texts(Column $cells): array
    {
        $values = array_map(mb_strtolower(...), $this->values);
        $first = $values[0];
        $answer = match ($this->relation) {
            Relation::Contains => static fn (string $t): bool => str_contains($t, $first),
            Relation::ContainsNot => static fn (string $t): bool => !str_contains($t, $first),
            Relation::Begins => static fn (string $t): bool => str_starts_with($t, $first),
            Relation::Is, Relation::OneOf => static fn (string $t): bool => \in_array($t, $values, true),
            default => static fn (string $t): bool => !\in_array($t, $values, true),
        };
        $out = $kept = [];
        for ($row = 0, $rows = $cells->count(); $row < $rows; ++$row) {
            $text = $cells->text($row);
            $out[] = null !== $text && $kept[$text] ??= $answer(mb_strtolower($text));
        }

        return $out;
    }
}
