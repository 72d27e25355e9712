<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Math\Holm;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Profile\Chance;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Table;

/** What is missing together, and where a column is missing more often than elsewhere. */
final readonly class MissingPattern
{
    private const MOST = 14;
    private const MOST_LEVELS = 12;

    /**
     * @param list<array{column: string, missing: int, share: float}>                                                                                                                          $columns  those with missing cells, the most first
     * @param list<array{missing: list<string>, records: int}>                                                                                                                                 $patterns which columns are missing together and in how many records, the most frequent first; no column = complete
     * @param int                                                                                                                                                                              $other    records of rarer patterns
     * @param list<array{column: string, by: string, strength: float, adjusted: float, levels: list<array{value: string, records: int, missing: int, share: float, low: float, high: float}>}> $where    columns missing more often for some values of another, the strongest first
     */
    private function __construct(public int $records, public int $complete, public array $columns, public array $patterns, public int $other, public array $where)
    {
    }

    public static function of(Table $table): self
    {
        $columns = $marks = [];
        foreach ($table->columns() as $name => $column) {
            $missing = $column->missing();
            if ($missing > 0) {
                $columns[] = ['column' => (string) $name, 'missing' => $missing, 'share' => $missing / $table->rows];
                $marks[(string) $name] = $column;
            }
        }
        usort($columns, static fn (array $a, array $b) => $b['missing'] <=> $a['missing'] ?: strcmp($a['column'], $b['column']));
        $names = array_column($columns, 'column');
        $counts = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $pattern = '';
            foreach ($names as $name) {
                $pattern .= $marks[$name]->isMissing($row) ? '1' : '0';
            }
            $counts["p$pattern"] = ($counts["p$pattern"] ?? 0) + 1;
        }
        // Equally frequent ones by their marks, so that the order does not depend on the order of rows.
        uksort($counts, static fn (string $a, string $b) => $counts[$b] <=> $counts[$a] ?: strcmp($b, $a));
        $patterns = [];
        foreach (\array_slice($counts, 0, self::MOST) as $key => $records) {
            $patterns[] = ['missing' => array_values(array_filter($names, static fn (int $i) => '1' === $key[$i + 1], \ARRAY_FILTER_USE_KEY)), 'records' => $records];
        }

        return new self($table->rows, $counts['p'.str_repeat('0', \count($names))] ?? 0, $columns, $patterns, $table->rows - array_sum(array_column($patterns, 'records')), self::where($table, $names));
    }

    /**
     * @param list<string> $names
     *
     * @return list<array{column: string, by: string, strength: float, adjusted: float, levels: list<array{value: string, records: int, missing: int, share: float, low: float, high: float}>}>
     */
    private static function where(Table $table, array $names): array
    {
        $found = $p = [];
        foreach ($names as $name) {
            $column = $table->column($name);
            if ($column->missing() < 10 || $column->missing() > $table->rows - 10) {
                continue;
            }
            $mark = [];
            for ($row = 0; $row < $table->rows; ++$row) {
                $mark[] = $column->isMissing($row) ? 1 : 0;
            }
            foreach ($table->columns() as $by => $other) {
                $levels = $other instanceof CodedColumn ? \count(array_filter($other->counts())) : 0;
                if ((string) $by === $name || !$other instanceof CodedColumn || $levels < 2 || $levels > self::MOST_LEVELS) {
                    continue;
                }
                $out = Association::categories($other->codes, $mark);
                if (null !== $out['p'] && null !== $out['cramers_v_corrected']) {
                    $found[] = ['column' => $name, 'by' => (string) $by, 'strength' => $out['cramers_v_corrected'], 'levels' => self::levels($other, $mark)];
                    $p[] = Chance::ofCategories($other->codes, $mark) ?? 1.0;
                }
            }
        }
        $adjusted = Holm::adjusted($p);
        $found = array_map(static fn (array $f, int $i) => ['adjusted' => $adjusted[$i]] + $f, $found, array_keys($found));
        $found = array_values(array_filter($found, static fn (array $f) => $f['adjusted'] < 0.05));
        usort($found, static fn (array $a, array $b) => $b['strength'] <=> $a['strength'] ?: strcmp($a['column'].$a['by'], $b['column'].$b['by']));

        return \array_slice($found, 0, 6);
    }

    /**
     * @param list<int> $mark
     *
     * @return list<array{value: string, records: int, missing: int, share: float, low: float, high: float}>
     */
    private static function levels(CodedColumn $by, array $mark): array
    {
        $records = $missing = array_fill(0, \count($by->levels), 0);
        foreach ($by->codes as $row => $code) {
            if ($code >= 0) {
                ++$records[$code];
                $missing[$code] += $mark[$row];
            }
        }
        $out = [];
        foreach ($by->levels as $code => $level) {
            if ($records[$code] > 0) {
                $share = Interval::wilson($missing[$code], $records[$code]);
                $out[] = ['value' => $level, 'records' => $records[$code], 'missing' => $missing[$code], 'share' => $missing[$code] / $records[$code], 'low' => $share->low ?? 0.0, 'high' => $share->high ?? 1.0];
            }
        }
        usort($out, static fn (array $a, array $b) => $b['share'] <=> $a['share'] ?: strcmp($a['value'], $b['value']));

        return $out;
    }
}
