<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Table\NumberColumn;

/**
 * Ways to treat the missing cells of a column of numbers, each tried where the answer is known: every fifth known training cell is taken
 * away and filled again by what the others say.
 */
final readonly class Treatments
{
    private const FOLDS = 5;

    /**
     * @param string $method   as in "fill missing"; "drop rows" loses the rows instead
     * @param int    $rowsLost training rows that would be lost
     * @param ?float $error    mean absolute difference of filled and true values; null where nothing is filled
     * @param float  $spread   standard deviation of the column afterwards, as a share of that of its known cells
     */
    private function __construct(public string $method, public int $rowsLost, public ?float $error, public float $spread)
    {
    }

    /**
     * @param string $group column for the way by group; left out when empty
     *
     * @return list<self> none for a column without missing cells, or with too few known ones
     */
    public static function of(Lesson $lesson, string $name, string $group): array
    {
        $column = $lesson->table->has($name) ? $lesson->table->column($name) : null;
        if (!$column instanceof NumberColumn) {
            return [];
        }
        $values = $column->values;
        $known = array_values(array_filter($lesson->rows, static fn (int $r) => $values[$r] === $values[$r]));
        $missing = \count($lesson->rows) - \count($known);
        $sd = self::sd(array_map(static fn (int $r) => $values[$r], $known));
        if (0 === $missing || \count($known) < 2 * self::FOLDS || 0.0 === $sd) {
            return [];
        }
        $held = array_values(array_filter($known, static fn (int $i) => 0 === $i % self::FOLDS, \ARRAY_FILTER_USE_KEY));
        foreach ($held as $row) {
            $values[$row] = \NAN;
        }
        $masked = new Lesson($lesson->table->with($name, new NumberColumn(array_values($values))), $lesson->rows, null, $lesson->out);
        $out = [new self('drop rows', $missing, null, 1.0)];
        foreach ([FillMissing::MEAN, FillMissing::MEDIAN, ...('' === $group ? [] : [FillMissing::BY_GROUP]), FillMissing::BY_MODEL] as $method) {
            try {
                $step = FillMissing::fromSettings(new Settings(['columns' => [$name], 'method' => $method, 'group' => $group]));
                // Learned once, without the cells taken away: for the spread that hardly matters.
                $fitted = $step->fit($masked);
                $tried = $fitted->apply($masked->table)->number($name)->values;
                $filled = $fitted->apply($lesson->table)->number($name)->values;
            } catch (CannotPrepare) {
                continue;
            }
            $error = array_sum(array_map(static fn (int $r) => abs($tried[$r] - $column->values[$r]), $held)) / \count($held);
            $out[] = new self($method, 0, $error, self::sd(array_map(static fn (int $r) => $filled[$r], $lesson->rows)) / $sd);
        }

        return $out;
    }

    /** @param list<float> $values */
    private static function sd(array $values): float
    {
        return (float) (NumberSummary::of($values)->figure('sd') ?? 0.0);
    }
}
