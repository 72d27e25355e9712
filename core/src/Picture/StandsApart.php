<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** What stands apart in each column of numbers: Tukey's fences and the robust z. Definitions: docs/methods/summary.md. */
final readonly class StandsApart
{
    private const MOST_RECORDS = 60;

    /**
     * @param list<array{column: string, records: int, low: float, q1: float, median: float, q3: float, high: float, least: float, most: float, fenceLow: float, fenceHigh: float, below: int, above: int, far: int, robust: ?int, largestZ: ?float, apart: list<array{row: int, value: float, z: ?float}>}> $columns low and high are the last values inside the fences; the farthest by robust z first
     */
    private function __construct(public array $columns)
    {
    }

    public static function of(Table $table): self
    {
        $out = [];
        foreach ($table->columns() as $name => $column) {
            if (!$column instanceof NumberColumn) {
                continue;
            }
            $summary = NumberSummary::of($column->values);
            if ($summary->n < 10 || $summary->distinct < 5) {
                continue;
            }
            $out[] = self::column((string) $name, $column, $summary);
        }
        usort($out, static fn (array $a, array $b) => ($b['largestZ'] ?? 0) <=> ($a['largestZ'] ?? 0) ?: strcmp($a['column'], $b['column']));

        return new self($out);
    }

    /**
     * The same with the numbers that its records have elsewhere.
     *
     * @param list<int> $numbers
     */
    public function numbered(array $numbers): self
    {
        return new self(array_map(static fn (array $c) => ['apart' => array_map(static fn (array $a) => ['row' => $numbers[$a['row']]] + $a, $c['apart'])] + $c, $this->columns));
    }

    /** @return array{column: string, records: int, low: float, q1: float, median: float, q3: float, high: float, least: float, most: float, fenceLow: float, fenceHigh: float, below: int, above: int, far: int, robust: ?int, largestZ: ?float, apart: list<array{row: int, value: float, z: ?float}>} */
    private static function column(string $name, NumberColumn $column, NumberSummary $summary): array
    {
        $fenceLow = (float) $summary->figure('fence_low');
        $fenceHigh = (float) $summary->figure('fence_high');
        $low = \INF;
        $high = -\INF;
        $apart = [];
        foreach ($column->values as $row => $v) {
            if ($v < $fenceLow || $v > $fenceHigh) {
                $apart[] = ['row' => $row, 'value' => $v, 'z' => $summary->robustZ($v)];
            } elseif ($v === $v) {
                $low = $v < $low ? $v : $low;
                $high = $v > $high ? $v : $high;
            }
        }
        $median = (float) $summary->figure('median');
        usort($apart, static fn (array $a, array $b) => abs($b['value'] - $median) <=> abs($a['value'] - $median) ?: $a['row'] <=> $b['row']);
        $robust = $summary->figure('robust_z_over_3_5');
        $ends = array_filter([$summary->robustZ((float) $summary->figure('min')), $summary->robustZ((float) $summary->figure('max'))], static fn (?float $z) => null !== $z);

        return [
            'column' => $name, 'records' => $summary->n,
            'low' => is_finite($low) ? $low : $median, 'q1' => (float) $summary->figure('q1'), 'median' => $median, 'q3' => (float) $summary->figure('q3'), 'high' => is_finite($high) ? $high : $median,
            'least' => (float) $summary->figure('min'), 'most' => (float) $summary->figure('max'), 'fenceLow' => $fenceLow, 'fenceHigh' => $fenceHigh,
            'below' => (int) $summary->figure('outliers_low'), 'above' => (int) $summary->figure('outliers_high'), 'far' => (int) $summary->figure('extremes_low') + (int) $summary->figure('extremes_high'),
            'robust' => null === $robust ? null : (int) $robust, 'largestZ' => [] === $ends ? null : max(array_map(abs(...), $ends)),
            'apart' => \array_slice($apart, 0, self::MOST_RECORDS),
        ];
    }
}
