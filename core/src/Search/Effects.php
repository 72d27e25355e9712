<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

/** What each varied setting did to the figure, over all tries; descriptive, for tries are no sample of anything. */
final class Effects
{
    /** A setting with more values than this is shown in so many ranges. */
    private const PARTS = 6;

    /**
     * @param list<array<array-key, mixed>> $settings of each try
     * @param list<float>                   $figures  of each try
     *
     * @return array{share: float, parts: list<array{label: string, low: ?float, high: ?float, value: bool|float|int|string|null, tries: int, lowest: float, quarter: float, median: float, threeQuarters: float, highest: float}>} share: of the spread of all tries that lies between the values
     */
    public static function of(string $name, array $settings, array $figures): array
    {
        $groups = self::groups($name, $settings);
        $mean = array_sum($figures) / max(1, \count($figures));
        $all = array_sum(array_map(static fn (float $f): float => ($f - $mean) ** 2, $figures));
        $between = 0.0;
        $parts = [];
        foreach ($groups as $group) {
            $own = array_map(static fn (int $i): float => $figures[$i], $group['tries']);
            sort($own);
            $n = \count($own);
            $between += $n * (array_sum($own) / $n - $mean) ** 2;
            $parts[] = [
                'label' => $group['label'], 'low' => $group['low'], 'high' => $group['high'], 'value' => $group['value'], 'tries' => $n,
                'lowest' => $own[0], 'quarter' => self::quantile($own, 0.25), 'median' => self::quantile($own, 0.5),
                'threeQuarters' => self::quantile($own, 0.75), 'highest' => $own[$n - 1],
            ];
        }

        return ['share' => $all > 0.0 ? $between / $all : 0.0, 'parts' => $parts];
    }

    /**
     * Two settings as a map: the mean of the best few tries in each cell.
     *
     * @param list<array<array-key, mixed>> $settings
     * @param list<float>                   $figures
     * @param bool                          $more     whether more of the figure is better
     *
     * @return array{x: list<string>, y: list<string>, cells: list<list<?float>>} cells by y, then x; null where nothing was tried
     */
    public static function map(string $x, string $y, array $settings, array $figures, bool $more, int $best = 6): array
    {
        [$across, $up] = [self::groups($x, $settings), self::groups($y, $settings)];
        $cells = [];
        foreach ($up as $row) {
            $line = [];
            foreach ($across as $column) {
                $own = array_map(static fn (int $i): float => $figures[$i], array_values(array_intersect($row['tries'], $column['tries'])));
                $more ? rsort($own) : sort($own);
                $few = \array_slice($own, 0, $best);
                $line[] = [] === $few ? null : array_sum($few) / \count($few);
            }
            $cells[] = $line;
        }

        return ['x' => array_column($across, 'label'), 'y' => array_column($up, 'label'), 'cells' => $cells];
    }

    /**
     * @param list<array<array-key, mixed>> $settings
     *
     * @return list<array{label: string, low: ?float, high: ?float, value: bool|float|int|string|null, tries: non-empty-list<int>}>
     */
    private static function groups(string $name, array $settings): array
    {
        $by = $values = [];
        foreach ($settings as $i => $own) {
            $value = $own[$name] ?? null;
            if (\is_scalar($value)) {
                $by[serialize($value)][] = $i;
                $values[serialize($value)] = $value;
            }
        }
        uasort($values, static fn (bool|float|int|string $a, bool|float|int|string $b): int => $a <=> $b);
        $numbers = array_filter($values, static fn (bool|float|int|string $v): bool => \is_int($v) || \is_float($v));
        if (\count($values) <= self::PARTS || \count($numbers) < \count($values)) {
            $out = [];
            foreach ($values as $key => $value) {
                $number = \is_int($value) || \is_float($value) ? (float) $value : null;
                $out[] = ['label' => self::said($value), 'low' => $number, 'high' => $number, 'value' => $value, 'tries' => $by[$key]];
            }

            return $out;
        }
        // As many tries in each range, as near as can be; the same value is in one.
        $sorted = array_keys($numbers);
        $total = \count($settings);
        $out = [];
        $passed = 0;
        $part = [];
        foreach ($sorted as $at => $key) {
            $part[] = $key;
            $passed += \count($by[$key]);
            if ($passed >= (\count($out) + 1) * $total / self::PARTS || $at === \count($sorted) - 1) {
                [$low, $high] = [(float) $numbers[$part[0]], (float) $numbers[$part[\count($part) - 1]]];
                $label = $low === $high ? self::said($low) : self::said($low).' to '.self::said($high);
                $out[] = [
                    'label' => $label,
                    'low' => $low,
                    'high' => $high,
                    'value' => null,
                    'tries' => array_merge(...array_map(static fn (string $k): array => $by[$k], $part)),
                ];
                $part = [];
            }
        }

        return $out;
    }

    private static function said(bool|float|int|string $value): string
    {
        return \is_bool($value) ? ($value ? 'yes' : 'no') : (\is_float($value) ? (string) (float) \sprintf('%.4g', $value) : (string) $value);
    }

    /** @param non-empty-list<float> $sorted */
    private static function quantile(array $sorted, float $p): float
    {
        $at = $p * (\count($sorted) - 1);
        $low = (int) floor($at);

        return $sorted[$low] + ($at - $low) * (($sorted[$low + 1] ?? $sorted[$low]) - $sorted[$low]);
    }
}
