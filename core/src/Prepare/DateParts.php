<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Days;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Splits dates into parts: the year as a number, the weekday as a category, and so on. RowWise. */
final readonly class DateParts implements Step, FittedStep, AsFrame
{
    public const PARTS = ['year', 'quarter', 'month', 'week', 'day', 'weekday', 'weekend', 'hour', 'day of year', 'days since 1970'];
    private const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
    private const MONTHS = [
        'January',
        'February',
        'March',
        'April',
        'May',
        'June',
        'July',
        'August',
        'September',
        'October',
        'November',
        'December',
    ];

    /**
     * @param list<string> $parts
     *
     * @throws CannotPrepare Choose at least one part of the date. "…" is not a part of a date; choose from: ….
     */
    public function __construct(private string $column, private array $parts, private bool $keep)
    {
        if ([] === $parts) {
            throw new CannotPrepare('Choose at least one part of the date.');
        }
        foreach ($parts as $part) {
            if (!\in_array($part, self::PARTS, true)) {
                throw new CannotPrepare(\sprintf('"%s" is not a part of a date; choose from: %s.', $part, implode(', ', self::PARTS)));
            }
        }
    }

    public static function described(): Described
    {
        return new Described('date_parts', 'Split a date', 'columns', 'Makes columns of the parts of a date, such as its weekday.', [
            new Setting('column', 'Date', Setting::COLUMN, kinds: [Kind::Date->value]),
            new Setting('parts', 'Parts', Setting::WORDS, choices: self::PARTS, default: ['month', 'weekday']),
            new Setting('keep', 'keep the date itself', Setting::YES, default: false),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->required('column', 'Choose the date to split.'), $given->words('parts'), $given->yes('keep'));
    }

    public static function fromArray(array $data): self
    {
        return self::fromSettings(new Settings($data));
    }

    public function toArray(): array
    {
        return ['step' => 'date_parts', 'column' => $this->column, 'parts' => $this->parts, 'keep' => $this->keep];
    }

    private function name(string $part): string
    {
        return $this->column.'_'.str_replace(' ', '_', $part);
    }

    /** @throws CannotPrepare … holds …; only dates can be split. */
    public function fit(Lesson $lesson): self
    {
        $column = $lesson->table->has($this->column) ? $lesson->table->column($this->column) : throw Chosen::absent($this->column);
        if (!$column instanceof DateColumn) {
            throw new CannotPrepare(\sprintf('%s holds %s; only dates can be split.', $this->column, $column->kind()->value));
        }

        return $this;
    }

    public function apply(Table $table): Table
    {
        $column = $table->has($this->column) ? $table->column($this->column) : null;
        if (!$column instanceof DateColumn) {
            return $table;
        }
        foreach ($this->parts as $part) {
            $table = $table->with($this->name($part), self::part($column, $part));
        }

        return $this->keep ? $table : $table->without([$this->column]);
    }

    private static function part(DateColumn $column, string $part): Column
    {
        // Days repeat: each is taken apart once.
        $known = $out = [];
        $scale = 'hour' === $part ? 3600 : DateColumn::DAY;
        foreach ($column->seconds as $s) {
            $at = DateColumn::MISSING === $s ? 'missing' : intdiv($s - (($s % $scale + $scale) % $scale), $scale);
            $out[] = $known[$at] ??= 'missing' === $at ? null : self::of($at * $scale, $part);
        }
        $coded = match ($part) {
            'month' => self::MONTHS,
            'weekday' => self::WEEKDAYS,
            'weekend' => ['yes', 'no'],
            default => null,
        };
        if (null === $coded) {
            return new NumberColumn(array_map(static fn (?int $v) => null === $v ? \NAN : (float) $v, $out));
        }

        return new CodedColumn(
            array_map(static fn (?int $v) => $v ?? -1, $out),
            $coded,
            'weekend' === $part ? Kind::YesNo : Kind::Category,
        );
    }

    private static function of(int $s, string $part): int
    {
        return match ($part) {
            'year' => (int) gmdate('Y', $s),
            'quarter' => intdiv((int) gmdate('n', $s) + 2, 3),
            'month' => (int) gmdate('n', $s) - 1,
            'week' => (int) gmdate('W', $s),
            'day' => (int) gmdate('j', $s),
            'weekday' => (int) gmdate('N', $s) - 1,
            'weekend' => (int) gmdate('N', $s) > 5 ? 0 : 1,
            'hour' => (int) gmdate('G', $s),
            'day of year' => (int) gmdate('z', $s) + 1,
            default => intdiv($s, DateColumn::DAY),
        };
    }

    public function frame(Frame $frame): Frame
    {
        if (Kind::Date !== $frame->kind($this->column)) {
            return $frame;
        }
        $own = $frame->column($this->column);
        $days = new Days($own);
        $made = [];
        foreach ($this->parts as $part) {
            $made[$this->name($part)] = match ($part) {
                'month' => [Kind::Category, self::named($own, $days->month(), self::MONTHS)],
                'weekday' => [Kind::Category, self::named($own, $days->weekday(), self::WEEKDAYS)],
                'weekend' => [Kind::YesNo, self::named($own, $days->weekday(), ['no', 'no', 'no', 'no', 'no', 'yes', 'yes'])],
                'year' => [Kind::Number, $days->year()],
                'quarter' => [Kind::Number, $days->quarter()],
                'week' => [Kind::Number, $days->week()],
                'day' => [Kind::Number, $days->day()],
                'hour' => [Kind::Number, $days->hour()],
                'day of year' => [Kind::Number, $days->dayOfYear()],
                default => [Kind::Number, $days->since()],
            };
        }
        $frame = $frame->with($made);

        return $this->keep ? $frame : $frame->without([$this->column]);
    }

    /** @param non-empty-list<string> $names of 1, 2 and so on */
    private static function named(Expression $date, Expression $number, array $names): Expression
    {
        $so = new Constant($names[\count($names) - 1]);
        for ($i = \count($names) - 2; $i >= 0; --$i) {
            $so = new When(Operation::of(Operator::Below, $number, new Constant($i + 1.5)), new Constant($names[$i]), $so);
        }

        return new When(new IsMissing($date), new Constant(null), $so);
    }

    public function sentence(): string
    {
        return \sprintf(
            'Makes the %s of %s%s.',
            Words::listed($this->parts),
            $this->column,
            $this->keep ? '' : ', which is then set aside',
        );
    }

    public function asks(array $wanted): array
    {
        $made = [];
        foreach ($this->parts as $part) {
            $made[$this->name($part)] = [$this->column];
        }

        return Asked::before($wanted, $made);
    }
}
