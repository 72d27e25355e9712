<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Makes one column of two: a product, a ratio, a sum or a difference of numbers, or the pairs of values of two categories. RowWise. */
final readonly class Interact implements Step, FittedStep, AsFrame
{
    private const HOW = ['product', 'ratio', 'sum', 'difference', 'pairs of values'];
    private const NAMES = ['product' => '_times_', 'ratio' => '_per_', 'sum' => '_plus_', 'difference' => '_minus_', 'pairs of values' => '_and_'];

    public function __construct(private string $one, private string $other, private string $how)
    {
    }

    public static function described(): Described
    {
        return new Described('interact', 'Combine two columns', 'combine', 'Makes one column of two: product, ratio, sum or difference of numbers, or the pairs of values of categories.', [
            new Setting('column', 'Column', Setting::COLUMN),
            new Setting('how', 'as', Setting::CHOICE, choices: self::HOW, default: self::HOW[0]),
            new Setting('other', 'with', Setting::COLUMN),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->required('column', 'Choose the first column.'), $given->required('other', 'Choose the second column.'), $given->choice('how', self::HOW));
    }

    public static function fromArray(array $data): self
    {
        return self::fromSettings(new Settings($data));
    }

    public function toArray(): array
    {
        return ['step' => 'interact', 'column' => $this->one, 'how' => $this->how, 'other' => $this->other];
    }

    private function name(): string
    {
        return $this->one.self::NAMES[$this->how].$this->other;
    }

    /** @throws CannotPrepare … holds …; for … it must hold …. There is a column … already. */
    public function fit(Lesson $lesson): self
    {
        foreach ([$this->one, $this->other] as $name) {
            $column = $lesson->table->has($name) ? $lesson->table->column($name) : throw Chosen::absent($name);
            $fits = 'pairs of values' === $this->how ? $column instanceof CodedColumn : $column instanceof NumberColumn;
            if (!$fits) {
                throw new CannotPrepare(\sprintf('%s holds %s; for %s it must hold %s.', $name, $column->kind()->value, 'pairs of values' === $this->how ? 'pairs of values' : 'a '.$this->how, 'pairs of values' === $this->how ? 'categories or yes/no' : 'numbers'));
            }
        }
        if ($lesson->table->has($this->name())) {
            throw new CannotPrepare(\sprintf('There is a column %s already.', $this->name()));
        }

        return $this;
    }

    public function apply(Table $table): Table
    {
        if (!$table->has($this->one) || !$table->has($this->other)) {
            return $table;
        }

        return $table->with($this->name(), $this->made($table->column($this->one), $table->column($this->other)));
    }

    private function made(Column $one, Column $other): Column
    {
        if ($one instanceof NumberColumn && $other instanceof NumberColumn) {
            $b = $other->values;
            $out = [];
            foreach ($one->values as $row => $a) {
                $out[] = match ($this->how) {
                    'product' => $a * $b[$row],
                    // What cannot be divided is missing, not endless.
                    'ratio' => 0.0 === $b[$row] || -0.0 === $b[$row] ? \NAN : $a / $b[$row],
                    'sum' => $a + $b[$row],
                    default => $a - $b[$row],
                };
            }

            return new NumberColumn(array_map(static fn (float $v) => is_finite($v) ? $v : \NAN, $out));
        }
        $cells = [];
        for ($row = 0, $rows = $one->count(); $row < $rows; ++$row) {
            $cells[] = $one->isMissing($row) || $other->isMissing($row) ? null : $one->text($row).', '.$other->text($row);
        }

        return CodedColumn::fromCells($cells);
    }

    public function sentence(): string
    {
        return \sprintf('Makes %s, the %s of %s and %s.', $this->name(), $this->how, $this->one, $this->other);
    }

    public function asks(array $wanted): array
    {
        return Asked::before($wanted, [$this->name() => [$this->one, $this->other]]);
    }

    public function frame(Frame $frame): Frame
    {
        if (!$frame->has($this->one) || !$frame->has($this->other)) {
            return $frame;
        }
        [$one, $other] = [$frame->column($this->one), $frame->column($this->other)];
        if ($one->isText || $other->isText) {
            $both = Operation::of(Operator::Join, $one, new Constant(', '), $other);
            $lacks = Operation::of(Operator::Or, new IsMissing($one), new IsMissing($other));

            return $frame->with([$this->name() => [Kind::Category, new When($lacks, new Constant(null), $both)]]);
        }
        $zero = Operation::of(
            Operator::And,
            Operation::of(Operator::UpTo, $other, new Constant(0.0)),
            Operation::of(Operator::UpTo, new Constant(0.0), $other),
        );
        $made = match ($this->how) {
            'product' => Operation::of(Operator::Times, $one, $other),
            'ratio' => new When($zero, new Constant(null), Operation::of(Operator::Over, $one, new When($zero, new Constant(1.0), $other))),
            'sum' => Operation::of(Operator::Add, $one, $other),
            default => Operation::of(Operator::Less, $one, $other),
        };

        return $frame->with([$this->name() => [Kind::Number, $made]]);
    }
}
