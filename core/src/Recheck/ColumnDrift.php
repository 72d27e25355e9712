<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Math\Distribution\Kolmogorov;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** How the values of a column were spread at training, and how they are now. Definitions: docs/methods/recheck.md. */
final readonly class ColumnDrift
{
    private const HALF = 0.5;
    public const UNSEEN = '(unseen)';
    public const MISSING = '(missing)';

    /**
     * @param Interval                                                             $missing  share of missing cells now less then
     * @param float                                                                $index    population stability index
     * @param list<array{bin: string, training: int, newer: int, part: float}>     $bins     that it is the sum of
     * @param ?float                                                               $distance of a number: the largest between both
     *                                                                                       distribution functions; null where one has
     *                                                                                       no value
     * @param ?float                                                               $p        that such a distance, or such counts, come
     *                                                                                       by chance
     * @param list<string>                                                         $unseen   values that training never saw
     * @param ?array{chi_square: float, df: int, smallest_expected: float}         $counts   of a category
     * @param ?array{then: float, now: float, spreadThen: float, spreadNow: float} $means    of a number
     * @param list<float>                                                          $edges    of the bins of a number
     */
    private function __construct(
        public bool $isNumber,
        public int $missingThen,
        public int $missingNow,
        public Interval $missing,
        public float $index,
        public array $bins,
        public ?float $distance,
        public ?float $p,
        public array $unseen,
        public ?array $counts,
        public ?array $means,
        public array $edges,
    ) {
    }

    /** Dates count as days; what is no number and no category tells by whether it is missing alone. */
    public static function of(Column $then, Column $now): self
    {
        $numbers = [self::numbers($then), self::numbers($now)];

        return null !== $numbers[0] && null !== $numbers[1]
            ? self::ofNumbers($numbers[0], $numbers[1])
            : self::ofTexts(self::texts($then), self::texts($now));
    }

    /** @return ?list<float> */
    private static function numbers(Column $column): ?array
    {
        return match (true) {
            $column instanceof NumberColumn => $column->values,
            $column instanceof DateColumn => array_map(
                static fn (int $s): float => DateColumn::MISSING === $s ? \NAN : $s / DateColumn::DAY,
                $column->seconds,
            ),
            default => null,
        };
    }

    /** @return list<?string> */
    private static function texts(Column $column): array
    {
        $out = [];
        for ($row = 0, $n = $column->count(); $row < $n; ++$row) {
            $text = $column->text($row);
            $out[] = null === $text || $column instanceof CodedColumn || $column instanceof NumberColumn ? $text : 'a text';
        }

        return $out;
    }

    /**
     * @param list<float> $then
     * @param list<float> $now
     */
    private static function ofNumbers(array $then, array $now): self
    {
        [$a, $b] = [self::known($then), self::known($now)];
        $edges = QuantileBins::edges($a);
        $counts = [self::counted($edges, $a), self::counted($edges, $b)];
        $labels = array_map(strval(...), range(1, \count($edges) + 1));
        $lack = [\count($then) - \count($a), \count($now) - \count($b)];
        if (array_sum($lack) > 0) {
            $labels[] = self::MISSING;
            [$counts[0][], $counts[1][]] = $lack;
        }
        [$index, $bins] = self::index($labels, $counts[0], $counts[1], \count($then), \count($now));
        $distance = [] === $a || [] === $b ? null : self::distance($a, $b);
        $n = \count($a);
        $m = \count($b);

        return new self(
            true,
            $lack[0],
            $lack[1],
            self::shares($lack[0], \count($then), $lack[1], \count($now)),
            $index,
            $bins,
            $distance,
            null === $distance ? null : Kolmogorov::upper(sqrt($n * $m / ($n + $m)) * $distance),
            [],
            null,
            $n > 1 && $m > 1
                ? ['then' => self::mean($a), 'now' => self::mean($b), 'spreadThen' => self::spread($a), 'spreadNow' => self::spread($b)]
                : null,
            $edges,
        );
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function known(array $values): array
    {
        return array_values(array_filter($values, static fn (float $v): bool => is_finite($v)));
    }

    /**
     * @param list<float> $edges  ascending
     * @param list<float> $values
     *
     * @return list<int>
     */
    private static function counted(array $edges, array $values): array
    {
        $counts = array_fill(0, \count($edges) + 1, 0);
        foreach ($values as $v) {
            ++$counts[self::bin($edges, $v)];
        }

        return array_values($counts);
    }

    /** @param list<float> $edges ascending */
    private static function bin(array $edges, float $v): int
    {
        [$low, $high] = [0, \count($edges)];
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            $edges[$middle] < $v ? $low = $middle + 1 : $high = $middle;
        }

        return $low;
    }

    /**
     * @param list<?string> $then
     * @param list<?string> $now
     */
    private static function ofTexts(array $then, array $now): self
    {
        $count = static fn (array $v): array => array_count_values(array_values(array_filter($v, is_string(...))));
        [$a, $b] = [$count($then), $count($now)];
        $levels = array_map(strval(...), array_keys($a));
        sort($levels, \SORT_STRING);
        $unseen = array_map(strval(...), array_keys(array_diff_key($b, $a)));
        sort($unseen, \SORT_STRING);
        $counts = [
            array_map(static fn (string $l): int => $a[$l] ?? 0, $levels),
            array_map(static fn (string $l): int => $b[$l] ?? 0, $levels),
        ];
        if ([] !== $unseen) {
            $levels[] = self::UNSEEN;
            $counts[0][] = 0;
            $counts[1][] = (int) array_sum(array_intersect_key($b, array_flip($unseen)));
        }
        $test = self::chiSquare($counts[0], $counts[1]);
        $lack = [\count($then) - (int) array_sum($a), \count($now) - (int) array_sum($b)];
        if (array_sum($lack) > 0) {
            $levels[] = self::MISSING;
            [$counts[0][], $counts[1][]] = $lack;
        }
        [$index, $bins] = self::index($levels, $counts[0], $counts[1], \count($then), \count($now));

        return new self(
            false,
            $lack[0],
            $lack[1],
            self::shares($lack[0], \count($then), $lack[1], \count($now)),
            $index,
            $bins,
            null,
            null === $test ? null : (new ChiSquare((float) $test['df']))->upper($test['chi_square']),
            $unseen,
            $test,
            null,
            [],
        );
    }

    /**
     * @param list<string> $labels
     * @param list<int>    $then
     * @param list<int>    $now
     *
     * @return array{float, list<array{bin: string, training: int, newer: int, part: float}>}
     */
    private static function index(array $labels, array $then, array $now, int $rowsThen, int $rowsNow): array
    {
        $k = \count($labels);
        $bins = [];
        $sum = 0.0;
        foreach ($labels as $i => $label) {
            $p = ($then[$i] + self::HALF) / ($rowsThen + self::HALF * $k);
            $q = ($now[$i] + self::HALF) / ($rowsNow + self::HALF * $k);
            $sum += $part = ($q - $p) * log($q / $p);
            $bins[] = ['bin' => $label, 'training' => $then[$i], 'newer' => $now[$i], 'part' => $part];
        }

        return [$sum, $bins];
    }

    /** What is missing now, less then. */
    private static function shares(int $then, int $rowsThen, int $now, int $rowsNow): Interval
    {
        return Interval::wilson((float) $now, (float) $rowsNow)->less(
            Interval::wilson((float) $then, (float) $rowsThen),
        ) ?? new Interval(null);
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function distance(array $a, array $b): float
    {
        sort($a, \SORT_NUMERIC);
        sort($b, \SORT_NUMERIC);
        [$n, $m] = [\count($a), \count($b)];
        $i = $j = 0;
        $largest = 0.0;
        while ($i < $n && $j < $m) {
            $at = min($a[$i], $b[$j]);
            while ($i < $n && $a[$i] <= $at) {
                ++$i;
            }
            while ($j < $m && $b[$j] <= $at) {
                ++$j;
            }
            $largest = max($largest, abs($i / $n - $j / $m));
        }

        return $largest;
    }

    /**
     * @param list<int> $then
     * @param list<int> $now
     *
     * @return ?array{chi_square: float, df: int, smallest_expected: float} null where one of them has no value, or there is one value alone
     */
    private static function chiSquare(array $then, array $now): ?array
    {
        [$a, $b] = [array_sum($then), array_sum($now)];
        if (\count($then) < 2 || 0 === $a || 0 === $b) {
            return null;
        }
        $sum = 0.0;
        $smallest = \INF;
        foreach ($then as $i => $count) {
            $all = $count + $now[$i];
            foreach ([[$count, $a], [$now[$i], $b]] as [$observed, $of]) {
                $expected = $all * $of / ($a + $b);
                $smallest = min($smallest, $expected);
                $sum += $expected > 0.0 ? ($observed - $expected) ** 2 / $expected : 0.0;
            }
        }

        return ['chi_square' => $sum, 'df' => \count($then) - 1, 'smallest_expected' => $smallest];
    }

    /** @param list<float> $values */
    private static function mean(array $values): float
    {
        return array_sum($values) / max(1, \count($values));
    }

    /** @param list<float> $values at least two */
    private static function spread(array $values): float
    {
        $mean = self::mean($values);

        return sqrt(array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $values)) / max(1, \count($values) - 1));
    }

    /** @return array<string, mixed> by the names of the reference */
    public function toArray(): array
    {
        $own = [
            'kind' => $this->isNumber ? 'number' : 'text',
            'missing_training' => $this->missingThen,
            'missing_newer' => $this->missingNow,
            'missing_share_difference' => $this->missing->value,
            'missing_share_low' => $this->missing->low,
            'missing_share_high' => $this->missing->high,
            'psi' => $this->index,
            'psi_bins' => $this->bins,
            'p' => $this->p,
        ];
        if (!$this->isNumber) {
            return $own + ['unseen_levels' => $this->unseen, 'chi_square_p' => $this->p] + ($this->counts ?? []);
        }
        $spread = $this->means['spreadThen'] ?? 0.0;

        return $own + ['edges' => $this->edges, 'ks_d' => $this->distance, 'ks_p' => $this->p] + (null === $this->means ? [] : [
            'mean_training' => $this->means['then'],
            'sd_training' => $this->means['spreadThen'],
            'mean_newer' => $this->means['now'],
            'sd_newer' => $this->means['spreadNow'],
            'mean_shift' => $spread > 0.0 ? ($this->means['now'] - $this->means['then']) / $spread : null,
            'sd_shift' => $spread > 0.0 ? ($this->means['spreadNow'] - $this->means['spreadThen']) / $spread : null,
        ]);
    }
}
