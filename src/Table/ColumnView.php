<?php

declare(strict_types=1);

namespace App\Table;

/** A line of the Register. */
final readonly class ColumnView
{
    /**
     * @param list<BinView>           $bins
     * @param list<FrequentValueView> $top
     */
    public function __construct(
        public int $id,
        public int $version,
        public int $position,
        public string $name,
        public string $kind,
        public string $use,
        public bool $known,
        public int $missing,
        public float $missingShare,
        public int $distinct,
        public array $bins,
        public array $top,
        public int $misfits,
        /** While the table is read: of how many records at its beginning all this was found; null once the column is read to its end */
        public ?int $first,
        /** Cells that are hidden while their records are sealed; all other figures are of the rest */
        public int $sealed)
    {
    }

    public static function of(TableColumn $column): self
    {
        $profile = $column->profile();
        $rows = \is_int($profile['rows'] ?? null) ? $profile['rows'] : $column->table()->rows();
        $missing = \is_int($profile['missing'] ?? null) ? $profile['missing'] : 0;
        /** @var list<array{low: float, high: float, count: int}> $bins */
        $bins = $profile['bins'] ?? [];
        $summary = \is_array($profile['summary'] ?? null) ? $profile['summary'] : [];
        /** @var list<array{value: string, count: int, share: float}> $top */
        $top = 'text' === ($summary['type'] ?? '') ? \array_slice(\is_array($summary['top'] ?? null) ? $summary['top'] : [], 0, 12) : [];

        return new self($column->id(), $column->version(), $column->position(), $column->name(), $column->kind()->value, $column->use()->value, $column->isKnown(), $missing, $rows > 0 ? $missing / $rows : 0.0, \is_int($profile['distinct'] ?? null) ? $profile['distinct'] : 0, array_map(static fn (array $b) => new BinView($b['low'], $b['high'], $b['count']), $bins), array_map(static fn (array $t) => new FrequentValueView($t['value'], $t['count'], $t['share']), $top), $column->misfitCount(), \is_int($profile['first'] ?? null) ? $profile['first'] : null, $column->isShownInPart() ? $column->table()->rows() - $rows : 0);
    }
}
