<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Table\Table;

/** Rows with a missing value in one of some columns are out. RowWise. */
final readonly class FittedDropRows implements TakesOut, AsFrame
{
    /** @param list<string> $columns */
    public function __construct(private array $columns)
    {
    }

    public function apply(Table $table): Table
    {
        return $table;
    }

    public function out(Table $table): array
    {
        $out = [];
        foreach ($this->columns as $name) {
            $column = $table->has($name) ? $table->column($name) : null;
            for ($row = 0; null !== $column && $row < $table->rows; ++$row) {
                if ($column->isMissing($row)) {
                    $out[$row] ??= $name.' missing';
                }
            }
        }

        return $out;
    }

    public function sentence(): string
    {
        return [] === $this->columns ? 'Drops no row: no column is of that sort.' : \sprintf('Drops rows that miss %s.', Words::listed($this->columns, 4, 'or'));
    }

    public function asks(array $wanted): array
    {
        return Asked::before($wanted, [], $this->columns);
    }

    public function toArray(): array
    {
        return ['step' => 'drop_rows', 'columns' => $this->columns];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{columns: list<string>} $data */
        return new self($data['columns']);
    }

    public function frame(Frame $frame): Frame
    {
        foreach ($this->columns as $name) {
            $frame = $frame->has($name) ? $frame->takingOut(new IsMissing($frame->column($name))) : $frame;
        }

        return $frame;
    }
}
