<?php

declare(strict_types=1);

namespace App\Service;

/** How far the values of a column in calls lie from those in training: the population stability index. */
final readonly class ColumnDriftView
{
    public function __construct(
        public string $column,
        public float $index,
        public int $records,
        public string $says,
    ) {
    }
}
