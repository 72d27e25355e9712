<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Table\CodedColumn;

/** A number by the values of a category: quartiles, the last values inside Tukey's fences, and what lies beyond. */
final class Boxes
{
    private const MOST = 14;
    private const MOST_APART = 40;

    /**
     * @param list<float> $values
     *
     * @return array{list<array<string, mixed>>, int} the most frequent values of the category first
     */
    public static function parts(CodedColumn $by, array $values, Told $told): array
    {
        $groups = [];
        foreach ($by->codes as $row => $code) {
            if ($code >= 0 && !is_nan($values[$row])) {
                $groups[$code][] = $row;
            }
        }
        uasort($groups, static fn (array $a, array $b) => \count($b) <=> \count($a) ?: $a[0] <=> $b[0]);
        $out = [];
        foreach (\array_slice($groups, 0, self::MOST, true) as $code => $rows) {
            $own = array_map(static fn (int $row) => $values[$row], $rows);
            $summary = NumberSummary::of($own);
            [$fenceLow, $fenceHigh] = [(float) $summary->figure('fence_low'), (float) $summary->figure('fence_high')];
            $inside = array_filter($own, static fn (float $v) => $v >= $fenceLow && $v <= $fenceHigh);
            $apart = [];
            foreach ($rows as $row) {
                if ($values[$row] < $fenceLow || $values[$row] > $fenceHigh) {
                    $apart[] = ['row' => $row, 'value' => $values[$row]];
                }
            }
            $median = (float) $summary->figure('median');
            usort($apart, static fn (array $a, array $b) => abs($b['value'] - $median) <=> abs($a['value'] - $median) ?: $a['row'] <=> $b['row']);
            $out[] = ['value' => $by->levels[$code], 'records' => \count($rows), 'low' => [] === $inside ? $median : min($inside), 'q1' => (float) $summary->figure('q1'), 'median' => $median, 'q3' => (float) $summary->figure('q3'), 'high' => [] === $inside ? $median : max($inside), 'beyond' => \count($apart), 'apart' => \array_slice($apart, 0, self::MOST_APART)] + $told->share($rows);
        }

        return [$out, array_sum(array_map(\count(...), $groups))];
    }
}
