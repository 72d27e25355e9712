<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/** Writes some values as others; an empty "becomes" makes them missing, which is how a missing code is declared. RowWise. */
final readonly class Recode implements Step, FittedStep, AsFrame
{
    /**
     * @param list<array{string, string}> $pairs value and what it becomes; several values may become the same one
     *
     * @throws CannotPrepare say at least one value and what it becomes
     */
    public function __construct(private string $column, private array $pairs, private int $hit = 0)
    {
        if ([] === $pairs) {
            throw new CannotPrepare('Say at least one value and what it becomes.');
        }
    }

    public static function described(): Described
    {
        return new Described('recode', 'Recode values', 'values', 'Writes some values as others. A value that becomes nothing is missing from then on.', [
            new Setting('column', 'Column', Setting::COLUMN),
            new Setting('pairs', 'Values', Setting::RECODES, explanation: 'Leave "becomes" empty to make a value missing.'),
        ]);
    }

    /** @throws CannotPrepare Each recoding is a value and what it becomes. */
    public static function fromSettings(Settings $given): self
    {
        $pairs = [];
        foreach ($given->items('pairs') as $pair) {
            if (!\is_array($pair) || 2 !== \count($pair) || !\is_scalar($pair[0] ?? null) || !\is_scalar($pair[1] ?? null)) {
                throw new CannotPrepare('Each recoding is a value and what it becomes.');
            }
            $pairs[] = [(string) $pair[0], (string) $pair[1]];
        }

        return new self($given->required('column', 'Choose the column to recode.'), $pairs);
    }

    public static function fromArray(array $data): self
    {
        /** @var array{column: string, pairs: list<array{string, string}>, hit: int} $data */
        return new self($data['column'], $data['pairs'], $data['hit']);
    }

    public function toArray(): array
    {
        return ['step' => 'recode', 'column' => $this->column, 'pairs' => $this->pairs] + ($this->hit > 0 ? ['hit' => $this->hit] : []);
    }

    /** @throws CannotPrepare "…" is not a …; … holds nothing else. */
    public function fit(Lesson $lesson): self
    {
        $before = $lesson->table->has($this->column) ? $lesson->table->column($this->column) : throw Chosen::absent($this->column);
        $parser = new CellParser();
        foreach ($this->pairs as [$from, $to]) {
            foreach ([$from, $to] as $value) {
                if ('' !== $value && (Kind::Number === $before->kind() && null === $parser->number($value) || Kind::Date === $before->kind() && null === $parser->date($value))) {
                    throw new CannotPrepare(
                        \sprintf('"%s" is not a %s; %s holds nothing else.', $value, $before->kind()->value, $this->column),
                    );
                }
            }
        }
        $after = $this->recoded($before);
        $hit = 0;
        for ($row = 0; $row < $lesson->table->rows; ++$row) {
            $hit += !isset($lesson->out[$row]) && $before->text($row) !== $after->text($row) ? 1 : 0;
        }

        return new self($this->column, $this->pairs, $hit);
    }

    public function apply(Table $table): Table
    {
        return $table->has($this->column) ? $table->with($this->column, $this->recoded($table->column($this->column))) : $table;
    }

    private function recoded(Column $column): Column
    {
        $parser = new CellParser();
        if ($column instanceof NumberColumn) {
            $map = [];
            foreach ($this->pairs as [$from, $to]) {
                $map[NumberColumn::write($parser->number($from) ?? \NAN)] = $parser->number($to) ?? \NAN;
            }

            return new NumberColumn(
                array_map(static fn (float $v) => is_nan($v) ? $v : $map[NumberColumn::write($v)] ?? $v, $column->values),
            );
        }
        if ($column instanceof DateColumn) {
            $map = [];
            foreach ($this->pairs as [$from, $to]) {
                $map[$parser->date($from) ?? DateColumn::MISSING] = $parser->date($to) ?? DateColumn::MISSING;
            }

            return new DateColumn(array_map(static fn (int $s) => $map[$s] ?? $s, $column->seconds));
        }
        $map = array_column($this->pairs, 1, 0);
        if ($column instanceof CodedColumn) {
            $levels = $codes = [];
            $index = [];
            foreach ($column->levels as $code => $level) {
                $to = (string) ($map[$level] ?? $level);
                $codes[$code] = '' === $to ? -1 : $index[$to] ??= \count($index);
            }
            $levels = array_map(strval(...), array_keys($index));

            return new CodedColumn(array_map(static fn (int $c) => $c < 0 ? -1 : $codes[$c], $column->codes), $levels, $column->kind());
        }
        $cells = [];
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            $text = $column->text($row);
            $to = null === $text ? '' : (string) ($map[$text] ?? $text);
            $cells[] = '' === $to ? null : $to;
        }

        return new TextColumn($cells, $column->kind());
    }

    public function frame(Frame $frame): Frame
    {
        $kind = $frame->kind($this->column);
        if (null === $kind) {
            return $frame;
        }
        $own = $so = $frame->column($this->column);
        if (Frame::isText($kind)) {
            $map = array_column($this->pairs, 1, 0);
            $to = new Lookup($own, array_filter($map, static fn (string $t): bool => '' !== $t), null);
            $is = static fn (array $texts): Operation => Operation::of(
                Operator::Below,
                new Constant(0.5),
                new Lookup($own, array_fill_keys(array_map(strval(...), array_keys($texts)), 1.0), 0.0, 0.0),
            );
            $none = array_filter($map, static fn (string $t): bool => '' === $t);
            $so = [] === $to->pairs ? $own : new When($is($map), $to, $own);
            $so = [] === $none ? $so : new When($is($none), new Constant(null), $so);

            return $frame->with([$this->column => [$kind, $so]]);
        }
        $parser = new CellParser();
        $read = static function (string $v) use ($parser, $kind): ?float {
            $seconds = Kind::Date === $kind ? $parser->date($v) : null;

            return Kind::Number === $kind ? $parser->number($v) : (null === $seconds ? null : $seconds / DateColumn::DAY);
        };
        foreach ($this->pairs as [$from, $to]) {
            $value = $read($from);
            if (null !== $value) {
                $is = Operation::of(
                    Operator::And,
                    Operation::of(Operator::UpTo, $own, new Constant($value)),
                    Operation::of(Operator::UpTo, new Constant($value), $own),
                );
                $so = new When($is, new Constant($read($to)), $so);
            }
        }

        return $frame->with([$this->column => [$kind, $so]]);
    }

    public function sentence(): string
    {
        $said = array_map(static fn (array $p) => \sprintf('%s becomes %s', $p[0], '' === $p[1] ? 'missing' : $p[1]), $this->pairs);

        return \sprintf('Recodes %s of %s: %s.', Words::count($this->hit, 'cell'), $this->column, Words::listed($said));
    }

    public function asks(array $wanted): array
    {
        return $wanted;
    }
}
