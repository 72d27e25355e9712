<?php

declare(strict_types=1);

namespace App\Register;

use App\Table\ColumnView;

/** One column in full: its figures, its large distribution, and the event's share in each part of it. */
final readonly class ColumnDetailView
{
    /**
     * @param array<string, mixed>           $summary  figures by the names of docs/methods/summary.md
     * @param list<DistributionPart>         $parts
     * @param ?string                        $headline what the picture shows, when it is more than noise
     * @param ?float                         $overall  the event's share among the rows looked at
     * @param list<array{0: int, 1: string}> $misfits  row and text of cells that do not fit, the first 20
     */
    public function __construct(
        public ColumnView $column,
        public array $summary,
        public array $parts,
        public ?string $headline,
        public ?float $overall,
        public ?string $event,
        public int $rowsLookedAt,
        public array $misfits,
    ) {
    }
}
