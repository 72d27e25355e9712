<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/**
 * Parts of a date from its days since 1970, by whole numbers alone: the calendar of Gregory with years that begin in March, so that the
 * day that comes every four years is the last (Richards, Calendars and their History, 1998; ISO 8601 for weeks).
 */
final class Days
{
    private const SHIFT = 719468.0;

    private Operation $whole;
    private Expression $year;
    private Expression $month;
    private Expression $day;

    public function __construct(private readonly Expression $days)
    {
        $this->whole = Operation::of(Operator::Floor, $days);
        $z = self::plus($this->whole, self::SHIFT);
        $era = self::parts($z, 146097.0);
        $dayOfEra = self::less($z, self::times($era, 146097.0));
        $leap = self::plus(
            self::less($dayOfEra, self::parts($dayOfEra, 1460.0)),
            self::less(self::parts($dayOfEra, 36524.0), self::parts($dayOfEra, 146096.0)),
        );
        $yearOfEra = self::parts($leap, 365.0);
        $before = self::plus(
            self::times($yearOfEra, 365.0),
            self::less(self::parts($yearOfEra, 4.0), self::parts($yearOfEra, 100.0)),
        );
        $dayOfYear = self::less($dayOfEra, $before);
        $fromMarch = self::parts(self::plus(self::times($dayOfYear, 5.0), 2.0), 153.0);
        $this->day = self::plus(self::less($dayOfYear, self::parts(self::plus(self::times($fromMarch, 153.0), 2.0), 5.0)), 1.0);
        $isLate = Operation::of(Operator::Below, $fromMarch, new Constant(9.5));
        $this->month = new When($isLate, self::plus($fromMarch, 3.0), self::plus($fromMarch, -9.0));
        $of = self::plus($yearOfEra, self::times($era, 400.0));
        $this->year = new When($isLate, $of, self::plus($of, 1.0));
    }

    public function year(): Expression
    {
        return $this->year;
    }

    /** 1 to 12. */
    public function month(): Expression
    {
        return $this->month;
    }

    public function quarter(): Expression
    {
        return self::parts(self::plus($this->month, 2.0), 3.0);
    }

    public function day(): Expression
    {
        return $this->day;
    }

    /** 1 is Monday. */
    public function weekday(): Expression
    {
        // Day 0 was a Thursday.
        $from = self::plus($this->whole, 3.0);

        return self::plus(self::less($from, self::times(self::parts($from, 7.0), 7.0)), 1.0);
    }

    public function hour(): Expression
    {
        $part = self::times(self::less($this->days, $this->whole), 24.0);

        // A thousandth of a second, since a part of a day has no exact double.
        return Operation::of(Operator::Floor, self::plus($part, 1e-6 / 3.6));
    }

    /** From 1. */
    public function dayOfYear(): Expression
    {
        return self::plus(self::less($this->whole, self::newYear($this->year)), 1.0);
    }

    /** By ISO 8601: the week is that of its Thursday. */
    public function week(): Expression
    {
        $thursday = self::plus(self::less($this->whole, $this->weekday()), 4.0);

        return self::plus(self::parts(self::less($thursday, self::newYear((new self($thursday))->year())), 7.0), 1.0);
    }

    public function since(): Expression
    {
        return $this->whole;
    }

    private static function newYear(Expression $year): Expression
    {
        $past = self::plus($year, -1.0);
        $leap = self::plus(self::less(self::parts($past, 4.0), self::parts($past, 100.0)), self::parts($past, 400.0));

        return self::plus(self::plus(self::times($past, 365.0), $leap), -719162.0);
    }

    private static function plus(Expression $a, Expression|float $b): Operation
    {
        return Operation::of(Operator::Add, $a, \is_float($b) ? new Constant($b) : $b);
    }

    private static function less(Expression $a, Expression $b): Operation
    {
        return Operation::of(Operator::Less, $a, $b);
    }

    private static function times(Expression $a, float $b): Operation
    {
        return Operation::of(Operator::Times, $a, new Constant($b));
    }

    private static function parts(Expression $a, float $b): Operation
    {
        return Operation::of(Operator::Floor, Operation::of(Operator::Over, $a, new Constant($b)));
    }
}
