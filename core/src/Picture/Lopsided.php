<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Profile\Shape;
use Dokimos\Core\Profile\ValueCounts;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** What is lopsided: numbers with a long tail, categories with values that hardly occur. */
final readonly class Lopsided
{
    /** A value is rare below this share. */
    public const RARE = 0.01;

    /**
     * @param list<array{column: string, skewness: float, median: float, mean: float, most: float, bins: list<array{low: float, high: float, count: int}>}> $numbers    the most lopsided first
     * @param list<array{column: string, levels: int, rare: list<array{value: string, records: int}>, inRare: int, top: string, topShare: float}>           $categories those with rare values, the most records in them first
     */
    private function __construct(public array $numbers, public array $categories)
    {
    }

    public static function of(Table $table): self
    {
        $numbers = $categories = [];
        foreach ($table->columns() as $name => $column) {
            $name = (string) $name;
            if ($column instanceof NumberColumn) {
                $summary = NumberSummary::of($column->values);
                $skewness = $summary->figure('skewness_G1');
                if (null !== $skewness && $summary->distinct > 10) {
                    $counts = new ValueCounts();
                    $counts->add($column->values);
                    $numbers[] = ['column' => $name, 'skewness' => (float) $skewness, 'median' => (float) $summary->figure('median'), 'mean' => (float) $summary->figure('mean'), 'most' => (float) $summary->figure('max'), 'bins' => Shape::ofNumbers(...$counts->sorted())];
                }
            } elseif ($column instanceof CodedColumn) {
                $found = self::category($name, $column);
                if (null !== $found) {
                    $categories[] = $found;
                }
            }
        }
        usort($numbers, static fn (array $a, array $b) => abs($b['skewness']) <=> abs($a['skewness']) ?: strcmp($a['column'], $b['column']));
        usort($categories, static fn (array $a, array $b) => $b['inRare'] <=> $a['inRare'] ?: strcmp($a['column'], $b['column']));

        return new self($numbers, $categories);
    }

    /** @return ?array{column: string, levels: int, rare: list<array{value: string, records: int}>, inRare: int, top: string, topShare: float} */
    private static function category(string $name, CodedColumn $column): ?array
    {
        $counts = array_filter($column->counts());
        $n = array_sum($counts);
        if (\count($counts) < 2) {
            return null;
        }
        arsort($counts);
        $rare = array_filter($counts, static fn (int $c) => $c < self::RARE * $n);
        if ([] === $rare) {
            return null;
        }
        $listed = [];
        foreach (array_reverse($rare, true) as $code => $records) {
            $listed[] = ['value' => $column->levels[$code], 'records' => $records];
        }
        $top = array_key_first($counts);

        return ['column' => $name, 'levels' => \count($counts), 'rare' => \array_slice($listed, 0, 40), 'inRare' => array_sum($rare), 'top' => $column->levels[$top], 'topShare' => $counts[$top] / $n];
    }
}
