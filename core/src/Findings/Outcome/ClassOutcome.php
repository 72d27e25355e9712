<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings\Outcome;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Profile\Chance;

/** Several classes: columns are ranked by the mean, over classes by their size, of the area under the ROC curve of each against all others. */
final readonly class ClassOutcome implements Outcome
{
    private const BORROWED = 10.0;
    /** A class of fewer records is not asked about. */
    private const FEWEST = 20;

    /**
     * @param list<float>  $values place of the class, NAN = unknown
     * @param list<string> $names
     */
    public function __construct(private array $values, private array $names)
    {
    }

    public function halves(): ?array
    {
        [$halves, $counts] = Halves::of($this->values);

        return \count(array_filter($counts, static fn (int $n): bool => $n >= self::FEWEST)) < 2 ? null : $halves;
    }

    public function ranked(array $codes, array $learning, array $judging): array
    {
        [$sizes, $cells] = $this->counted($codes, $learning);
        [$judged, $came] = $this->counted($codes, $judging);
        [$all, $here] = [\count($learning), \count($judging)];
        $value = $half = $weights = 0.0;
        foreach ($this->sums($learning) as $class => $hits) {
            $own = array_sum(array_map(static fn (array $c): int => $c[$class] ?? 0, $came));
            if ($hits < self::FEWEST / 2 || $own < self::FEWEST / 2 || $here === $own) {
                continue;
            }
            $event = $score = $counts = [];
            foreach ($judged as $code => $n) {
                $rate = (($cells[$code][$class] ?? 0) + self::BORROWED * $hits / $all) / (($sizes[$code] ?? 0) + self::BORROWED);
                $with = $came[$code][$class] ?? 0;
                array_push($event, 1.0, 0.0);
                array_push($score, $rate, $rate);
                array_push($counts, (float) $with, (float) ($n - $with));
            }
            $auc = DeLong::of($event, $score, $counts, true);
            $value += $own * $auc->auc;
            // The classes agree by the same chance: their mean is no surer than any.
            $half += $own * Normal::Z95 * sqrt($auc->variance());
            $weights += $own;
        }

        return $weights > 0.0 ? ['value' => $value / $weights, 'half' => $half / $weights, 'settled' => 0.0] : ['value' => 0.5, 'half' => 0.5, 'settled' => 0.0];
    }

    /**
     * @param list<int> $codes
     * @param list<int> $rows
     *
     * @return array{array<int, int>, array<int, array<int, int>>} records per part, and per part and class
     */
    private function counted(array $codes, array $rows): array
    {
        $sizes = $cells = [];
        foreach ($rows as $row) {
            $code = $codes[$row];
            $class = (int) $this->values[$row];
            $sizes[$code] = ($sizes[$code] ?? 0) + 1;
            $cells[$code][$class] = ($cells[$code][$class] ?? 0) + 1;
        }

        return [$sizes, $cells];
    }

    public function chance(array $codes, ?array $values): float
    {
        $classes = array_map(static fn (float $v): int => is_nan($v) ? -1 : (int) $v, $this->values);
        $p = Chance::ofCategories(array_map(static fn (int $code): int => $code + 1, $codes), $classes) ?? 1.0;

        return null === $values ? $p : min(1.0, 2 * min($p, Chance::ofGroups($classes, $values) ?? 1.0));
    }

    /** The class whose share differs most between the parts, by its part of chi-square. */
    public function told(array $codes): array
    {
        [$sizes, $cells] = $this->counted($codes, array_keys(array_filter($this->values, static fn (float $v): bool => !is_nan($v))));
        $n = max(1, array_sum($sizes));
        $best = 0;
        $most = -1.0;
        foreach (array_keys($this->names) as $class) {
            $rate = array_sum(array_map(static fn (array $c): int => $c[$class] ?? 0, $cells)) / $n;
            if ($rate * $n < self::FEWEST || $rate >= 1.0) {
                continue;
            }
            $sum = 0.0;
            foreach ($sizes as $code => $size) {
                $sum += $size * (($cells[$code][$class] ?? 0) / $size - $rate) ** 2;
            }
            if ($sum / ($rate * (1 - $rate)) > $most) {
                $most = $sum / ($rate * (1 - $rate));
                $best = $class;
            }
        }

        return [array_map(static fn (float $v): float => is_nan($v) ? \NAN : ((int) $v === $best ? 1.0 : 0.0), $this->values), \sprintf('“%s” ', $this->names[$best])];
    }

    public function write(float $mean): string
    {
        return \sprintf('%.1f%%', 100 * $mean);
    }

    public function facets(): array
    {
        return [] === $this->names ? [null] : $this->names;
    }

    public function sums(array $rows): array
    {
        $sums = array_fill(0, max(1, \count($this->names)), 0.0);
        foreach ($rows as $row) {
            ++$sums[(int) $this->values[$row]];
        }

        return array_values($sums);
    }

    public function spreads(array $rows): array
    {
        $n = max(1, \count($rows));

        return array_map(static fn (float $hits): ?float => $hits < self::FEWEST || $n - $hits < self::FEWEST ? null : sqrt($hits / $n * (1 - $hits / $n)), $this->sums($rows));
    }

    public function mean(int $facet, array $rows): Interval
    {
        return Interval::wilson($this->sums($rows)[$facet], \count($rows));
    }
}
