<?php

declare(strict_types=1);

namespace App\Service;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * In which tenth of the training records a value lies, or which value it is: what is counted of calls, so that drift shows without values.
 */
final readonly class Bins
{
    private const PARTS = 10;
    private const MOST_LEVELS = 20;

    /**
     * @param array<array-key, list<float>>  $cuts   of numbers and dates
     * @param array<array-key, list<string>> $levels of categories; all others share a class
     * @param array<array-key, true>         $dates  columns of days since 1970
     * @param array<array-key, list<int>>    $came   by column records seen in each class; the first is what is missing
     */
    private function __construct(private array $cuts, private array $levels, private array $dates, public array $came)
    {
    }

    /**
     * Read back from code that var_export() wrote.
     *
     * @param array<string, mixed> $state
     */
    public static function __set_state(array $state): self
    {
        /**
         * @var array{
         *     cuts: array<array-key, list<float>>, levels: array<array-key, list<string>>, dates: array<array-key, true>,
         *     came: array<array-key, list<int>>,
         * } $state
         */
        return new self($state['cuts'], $state['levels'], $state['dates'], $state['came']);
    }

    public static function of(Table $seen): self
    {
        $cuts = $levels = $dates = [];
        foreach ($seen->columns() as $name => $column) {
            $numbers = self::numbers($column);
            if (null !== $numbers) {
                $known = array_values(array_filter($numbers, is_finite(...)));
                sort($known, \SORT_NUMERIC);
                $own = [];
                for ($k = 1; $k < self::PARTS && [] !== $known; ++$k) {
                    $own[] = $known[intdiv($k * (\count($known) - 1), self::PARTS)];
                }
                $cuts[$name] = array_values(array_unique($own));
                if ($column instanceof DateColumn) {
                    $dates[$name] = true;
                }
            } elseif ($column instanceof CodedColumn) {
                $counts = \array_slice($column->counts(), 0, \count($column->levels), true);
                arsort($counts);
                $levels[$name] = array_map(
                    static fn (int $c): string => $column->levels[$c],
                    \array_slice(array_keys($counts), 0, self::MOST_LEVELS),
                );
            }
        }
        $bins = new self($cuts, $levels, $dates, []);
        $came = [];
        foreach ($bins->counts($seen) as $name => $own) {
            $all = array_fill(0, \count($cuts[$name] ?? $levels[$name] ?? []) + 2, 0);
            foreach ($own as $k => $n) {
                $all[$k] = $n;
            }
            $came[$name] = array_values($all);
        }

        return new self($cuts, $levels, $dates, $came);
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

    /** @return array<array-key, array<int, int>> by column, records by class; 0 = missing */
    public function counts(Table $table): array
    {
        $out = [];
        foreach ($table->columns() as $name => $column) {
            $numbers = self::numbers($column);
            if (null !== $numbers && isset($this->cuts[$name])) {
                foreach ($numbers as $v) {
                    $class = is_nan($v) ? 0 : 1 + \count(array_filter($this->cuts[$name], static fn (float $cut): bool => $v > $cut));
                    $out[$name][$class] = ($out[$name][$class] ?? 0) + 1;
                }
            } elseif ($column instanceof CodedColumn && isset($this->levels[$name])) {
                $places = array_flip($this->levels[$name]);
                foreach ($column->codes as $code) {
                    $class = $code < 0 ? 0 : 1 + ($places[$column->levels[$code]] ?? \count($places));
                    $out[$name][$class] = ($out[$name][$class] ?? 0) + 1;
                }
            }
        }

        return $out;
    }

    /** What a class of a column is called. */
    public function said(string $name, int $class): string
    {
        if (0 === $class) {
            return 'missing';
        }
        if (isset($this->levels[$name])) {
            return $this->levels[$name][$class - 1] ?? 'others';
        }
        $cuts = $this->cuts[$name] ?? [];
        $write = fn (float $v): string => isset($this->dates[$name]) ? gmdate(
            'j M Y',
            (int) ($v * DateColumn::DAY),
        ) : NumberColumn::write($v);

        return match (true) {
            [] === $cuts => 'any',
            1 === $class => 'up to '.$write($cuts[0]),
            !isset($cuts[$class - 1]) => 'over '.$write($cuts[\count($cuts) - 1]),
            default => $write($cuts[max(0, $class - 2)]).' to '.$write($cuts[$class - 1]),
        };
    }
}
