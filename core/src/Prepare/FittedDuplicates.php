<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** Duplicates among training rows; of new records it says nothing. TableShaping. */
final readonly class FittedDuplicates implements TrainingOnly
{
    /** @param array<int, string> $out known only where it was fitted, not kept with a model */
    public function __construct(private array $out, private int $count, private string $columns)
    {
    }

    public function outOfTraining(): array
    {
        return $this->out;
    }

    public function apply(Table $table): Table
    {
        return $table;
    }

    public function sentence(): string
    {
        return \sprintf('Removes %s equal to an earlier one in %s.', Words::count($this->count, 'training row'), $this->columns);
    }

    public function asks(array $wanted): array
    {
        return $wanted;
    }

    public function toArray(): array
    {
        return ['step' => 'duplicates', 'count' => $this->count, 'columns' => $this->columns];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{count: int, columns: string} $data */
        return new self([], $data['count'], $data['columns']);
    }
}
