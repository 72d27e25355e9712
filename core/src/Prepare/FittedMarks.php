<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** One yes/no column a value; a value never seen in training is "no" in all of them, a missing one stays missing. RowWise. */
final readonly class FittedMarks implements FittedStep, AsFrame
{
    /** @param array<array-key, list<string>> $levels by column */
    public function __construct(private array $levels)
    {
    }

    public function apply(Table $table): Table
    {
        foreach ($this->levels as $name => $levels) {
            $name = (string) $name;
            $column = $table->has($name) ? $table->column($name) : null;
            if (!$column instanceof CodedColumn) {
                continue;
            }
            foreach ($levels as $level) {
                $code = array_search($level, $column->levels, true);
                $table = $table->with($name.' is '.$level, new CodedColumn(array_map(static fn (int $c) => $c < 0 ? -1 : ($c === $code ? 0 : 1), $column->codes), ['yes', 'no'], Kind::YesNo));
            }
            $table = $table->without([$name]);
        }

        return $table;
    }

    public function sentence(): string
    {
        $said = [];
        foreach ($this->levels as $name => $levels) {
            $said[] = \sprintf('%s (%d)', $name, \count($levels));
        }

        return \sprintf('Makes a yes/no column of each value of %s.', Words::listed($said));
    }

    public function asks(array $wanted): array
    {
        $made = [];
        foreach ($this->levels as $name => $levels) {
            foreach ($levels as $level) {
                $made[$name.' is '.$level] = [(string) $name];
            }
        }

        return Asked::before($wanted, $made);
    }

    public function toArray(): array
    {
        return ['step' => 'encode', 'levels' => $this->levels];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{levels: array<array-key, list<string>>} $data */
        return new self($data['levels']);
    }

    public function frame(Frame $frame): Frame
    {
        foreach ($this->levels as $name => $levels) {
            $name = (string) $name;
            if (!$frame->has($name)) {
                continue;
            }
            $made = [];
            foreach ($levels as $level) {
                $made[$name.' is '.$level] = [Kind::YesNo, new Lookup($frame->column($name), [$level => 'yes'], 'no')];
            }
            $frame = $frame->with($made)->without([$name]);
        }

        return $frame;
    }
}
