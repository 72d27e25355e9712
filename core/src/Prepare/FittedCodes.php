<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** A number for each value of a category. RowWise; where it learned from the target, out-of-fold. */
final readonly class FittedCodes implements OutOfFold, AsFrame
{
    /** Stands for missing cells where they are a level of their own. */
    public const MISSING = "\0missing";

    /**
     * @param array<array-key, array<array-key, float>> $codes by column and level
     * @param array<array-key, float>                   $other by column: what a level never seen gets
     * @param array<array-key, array<int, float>>       $held  by column and row it learned from; known only where it was fitted
     */
    public function __construct(private array $codes, private array $other, private string $method, private array $held = [])
    {
    }

    public function apply(Table $table): Table
    {
        return $this->coded($table, []);
    }

    public function applyWhereLearned(Table $table): Table
    {
        return $this->coded($table, $this->held);
    }

    /** @param array<array-key, array<int, float>> $held */
    private function coded(Table $table, array $held): Table
    {
        foreach ($this->codes as $name => $codes) {
            $column = $table->has((string) $name) ? $table->column((string) $name) : null;
            if (!$column instanceof CodedColumn) {
                continue;
            }
            $missing = $codes[self::MISSING] ?? (Encode::FREQUENCY === $this->method ? \NAN : $this->other[$name]);
            $byCode = array_map(fn (string $level) => $codes[$level] ?? $this->other[$name], $column->levels);
            $values = array_map(static fn (int $c) => $c < 0 ? $missing : $byCode[$c], $column->codes);
            foreach ($held[$name] ?? [] as $row => $value) {
                $values[$row] = $value;
            }
            $table = $table->with((string) $name, new NumberColumn(array_values($values)));
        }

        return $table;
    }

    public function sentence(): string
    {
        $said = [];
        foreach ($this->codes as $name => $codes) {
            $said[] = [] === $codes ? (string) $name : \sprintf('%s (%s to %s)', $name, Words::number(min($codes)), Words::number(max($codes)));
        }

        return \sprintf('Replaces values by their %s%s: %s.', $this->method, Encode::FREQUENCY === $this->method ? ' in training rows' : ', each training row by what the others say', Words::listed($said));
    }

    public function asks(array $wanted): array
    {
        return $wanted;
    }

    public function toArray(): array
    {
        // The mark for missing cells is written as an empty text: no level is empty.
        $codes = array_map(static fn (array $c) => array_combine(array_map(static fn (int|string $l) => self::MISSING === $l ? '' : (string) $l, array_keys($c)), array_values($c)), $this->codes);

        return ['step' => 'encode', 'codes' => $codes, 'other' => $this->other, 'method' => $this->method];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{codes: array<array-key, array<array-key, float|int>>, other: array<array-key, float|int>, method: string} $data */
        $codes = array_map(static fn (array $c) => array_combine(array_map(static fn (int|string $l) => '' === $l ? self::MISSING : (string) $l, array_keys($c)), array_map(floatval(...), array_values($c))), $data['codes']);

        return new self($codes, array_map(floatval(...), $data['other']), $data['method']);
    }

    public function frame(Frame $frame): Frame
    {
        $made = [];
        foreach ($this->codes as $name => $codes) {
            $kind = $frame->kind((string) $name);
            if (null !== $kind && Frame::isText($kind)) {
                $missing = $codes[self::MISSING] ?? (Encode::FREQUENCY === $this->method ? null : $this->other[$name]);
                $known = array_diff_key($codes, [self::MISSING => 0.0]);
                $made[$name] = [Kind::Number, new Lookup($frame->column((string) $name), $known, $this->other[$name], $missing)];
            }
        }

        return $frame->with($made);
    }
}
