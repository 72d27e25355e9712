<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

use Dokimos\Core\Table\CodedColumn;

/**
 * What the outcome is on average among training rows of each value of a category with too many values for a term each. Means of few
 * rows are drawn to the mean of all by as many rows as PRIOR (Micci-Barreca 2001). A training row meets what the other parts of the
 * training rows say, never its own outcome. Definition: docs/methods/design.md.
 */
final readonly class TargetMeans
{
    private const PRIOR = 20.0;
    private const PARTS = 5;

    /**
     * @param array<array-key, list<float>> $byLevel one mean per outcome; missing cells are the level ''
     * @param list<float>                   $overall for values never seen
     * @param array<int, list<float>>       $held    by training row; known only where it was learned
     */
    private function __construct(public array $byLevel, public array $overall, private array $held = [])
    {
    }

    /**
     * @param list<int>         $rows    training rows
     * @param list<list<float>> $targets one list per outcome, one finite number per row of the table where it is a training row
     * @param ?list<float>      $weights per row of the table
     */
    public static function learn(CodedColumn $column, array $rows, array $targets, ?array $weights): self
    {
        // Sums by part, so that what the others say is all less one.
        $sums = $totals = [];
        $k = \count($targets);
        $zero = array_fill(0, $k + 1, 0.0);
        $all = array_fill(0, self::PARTS, $zero);
        foreach ($rows as $i => $row) {
            $part = $i % self::PARTS;
            $code = $column->codes[$row];
            $sums[$code][$part] ??= $zero;
            $w = $weights[$row] ?? 1.0;
            $sums[$code][$part][$k] += $w;
            $all[$part][$k] += $w;
            foreach ($targets as $t => $values) {
                $sums[$code][$part][$t] += $w * $values[$row];
                $all[$part][$t] += $w * $values[$row];
            }
        }
        $overall = self::mean(self::added($all, $zero));
        foreach ($sums as $code => $parts) {
            $totals[$code] = self::drawn(self::added($parts, $zero), $overall);
        }
        $rest = $others = [];
        for ($part = 0; $part < self::PARTS; ++$part) {
            $rest[$part] = self::mean(self::added(array_diff_key($all, [$part => true]), $zero));
            foreach ($sums as $code => $parts) {
                $others[$code][$part] = self::drawn(self::added(array_diff_key($parts, [$part => true]), $zero), $rest[$part]);
            }
        }
        $held = [];
        foreach ($rows as $i => $row) {
            $held[$row] = $others[$column->codes[$row]][$i % self::PARTS];
        }
        $byLevel = [];
        foreach ($totals as $code => $means) {
            $byLevel[$code < 0 ? '' : $column->levels[$code]] = $means;
        }
        ksort($byLevel, \SORT_STRING);

        return new self($byLevel, $overall, $held);
    }

    /**
     * @param array<int, non-empty-array<int, float>> $parts
     * @param non-empty-array<int, float>             $zero
     *
     * @return non-empty-list<float>
     */
    private static function added(array $parts, array $zero): array
    {
        foreach ($parts as $part) {
            foreach ($part as $j => $v) {
                $zero[$j] += $v;
            }
        }

        return array_values($zero);
    }

    /**
     * @param non-empty-list<float> $sums the sums of each outcome, the weight last
     *
     * @return list<float>
     */
    private static function mean(array $sums): array
    {
        $weight = array_pop($sums);

        return array_map(static fn (float $s): float => $weight > 0.0 ? $s / $weight : 0.0, $sums);
    }

    /**
     * @param non-empty-list<float> $sums
     * @param list<float>           $overall
     *
     * @return list<float>
     */
    private static function drawn(array $sums, array $overall): array
    {
        $weight = array_pop($sums);

        return array_map(static fn (float $s, float $mean): float => ($s + self::PRIOR * $mean) / ($weight + self::PRIOR), $sums, $overall);
    }

    /**
     * What each code of a column stands for.
     *
     * @return array<int, float> by code; -1 for missing cells
     */
    public function byCode(CodedColumn $column, int $target): array
    {
        $out = [-1 => ($this->byLevel[''] ?? $this->overall)[$target]];
        foreach ($column->levels as $code => $level) {
            $out[$code] = ($this->byLevel[$level] ?? $this->overall)[$target];
        }

        return $out;
    }

    /**
     * @param list<int> $rows training rows
     *
     * @return list<float> per row the mean of the folds that did not hold it
     */
    public function whereLearned(array $rows, int $target): array
    {
        return array_map(fn (int $row): float => $this->held[$row][$target], $rows);
    }

    /** @return array{by_level: list<array{string, list<float>}>, overall: list<float>} pairs, since levels of digits would become numbers as keys */
    public function toArray(): array
    {
        return ['by_level' => array_map(static fn (int|string $l, array $m): array => [(string) $l, $m], array_keys($this->byLevel), array_values($this->byLevel)), 'overall' => $this->overall];
    }

    /** @param array{by_level: list<array{string, list<float|int>}>, overall: list<float|int>} $data */
    public static function fromArray(array $data): self
    {
        $byLevel = [];
        foreach ($data['by_level'] as [$level, $means]) {
            $byLevel[$level] = array_map(floatval(...), $means);
        }

        return new self($byLevel, array_map(floatval(...), $data['overall']));
    }
}
