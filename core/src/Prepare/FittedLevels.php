<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Table;

/** Values of categories that are kept; all others are one. RowWise. */
final readonly class FittedLevels implements FittedStep, AsFrame
{
    /**
     * @param array<array-key, list<string>> $kept    by column
     * @param int                            $grouped values that were put together
     */
    public function __construct(private array $kept, private string $other, private int $grouped, private float $share)
    {
    }

    public function apply(Table $table): Table
    {
        foreach ($this->kept as $name => $kept) {
            $column = $table->has((string) $name) ? $table->column((string) $name) : null;
            if (!$column instanceof CodedColumn) {
                continue;
            }
            $levels = [...$kept, ...(\in_array($this->other, $kept, true) ? [] : [$this->other])];
            $index = array_flip($levels);
            $codes = array_map(fn (string $level) => $index[$level] ?? $index[$this->other], $column->levels);
            $table = $table->with((string) $name, new CodedColumn(array_map(static fn (int $c) => $c < 0 ? -1 : $codes[$c], $column->codes), $levels, $column->kind()));
        }

        return $table;
    }

    public function sentence(): string
    {
        return \sprintf('Calls %s of %s "%s": each holds less than %s of the training rows. So is any value never seen there.', Words::count($this->grouped, 'rare value'), Words::listed(array_map(strval(...), array_keys($this->kept))), $this->other, Words::share($this->share));
    }

    public function asks(array $wanted): array
    {
        return $wanted;
    }

    public function toArray(): array
    {
        return ['step' => 'group_rare', 'kept' => $this->kept, 'other' => $this->other, 'grouped' => $this->grouped, 'share' => $this->share];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{kept: array<array-key, list<string>>, other: string, grouped: int, share: float} $data */
        return new self($data['kept'], $data['other'], $data['grouped'], (float) $data['share']);
    }

    public function frame(Frame $frame): Frame
    {
        $made = [];
        foreach ($this->kept as $name => $kept) {
            $kind = $frame->kind((string) $name);
            if (null !== $kind && Frame::isText($kind)) {
                $made[$name] = [$kind, new Lookup($frame->column((string) $name), array_combine($kept, $kept), $this->other)];
            }
        }

        return $frame->with($made);
    }
}
