<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Baseline;

use Dokimos\Core\Learn\Model;
use Dokimos\Core\Table\Table;

/** The same chance for every record. */
final readonly class BaselineModel implements Model
{
    public function __construct(public float $chance)
    {
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $count = null === $rows ? $table->rows : \count($rows);

        return $count > 0 ? array_fill(0, $count, $this->chance) : [];
    }

    public function columns(): array
    {
        return [];
    }

    public function notes(): array
    {
        return [];
    }

    public function toArray(): array
    {
        return ['learner' => 'baseline', 'chance' => $this->chance];
    }

    /** @param array{chance: float} $data */
    public static function fromArray(array $data): self
    {
        return new self((float) $data['chance']);
    }
}
