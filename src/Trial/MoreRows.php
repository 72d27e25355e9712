<?php

declare(strict_types=1);

namespace App\Trial;

use App\Http\Problem;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Question\Question;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Calibrate\Calibrated;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Recheck\Judged;
use Dokimos\Core\Recheck\Remedies;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;

/**
 * Newer records of another table, never judged on: below those of the study they are learned from in every fold, or what the study's
 * records taught is calibrated on them.
 */
final readonly class MoreRows
{
    public function __construct(private EntityManagerInterface $entities, private OpenCells $reader, private Ground $ground)
    {
    }

    /**
     * Records of a table in the order of a column, those without a value last.
     *
     * @return list<int>
     */
    public function order(DataTable $table, ?string $by): array
    {
        $rows = $table->rows() > 0 ? range(0, $table->rows() - 1) : [];
        $column = null === $by ? null : $table->column($by) ?? throw Problem::invalid(\sprintf('There is no column %s.', $by), 'by');
        if (null === $column) {
            return $rows;
        }
        $labels = $this->reader->labels($column);
        usort(
            $rows,
            static fn (int $a, int $b): int => [null === $labels[$a], $labels[$a], $a] <=> [null === $labels[$b], $labels[$b], $b],
        );

        return $rows;
    }

    /** @return list<float> what came, as the question has it; NAN = not known */
    public function outcome(Question $question, DataTable $table): array
    {
        $target = null === $question->target() ? null : $table->column($question->target());
        if (null === $target) {
            return array_fill(0, $table->rows(), \NAN);
        }

        return null !== $question->event()
            ? $this->reader->event($target, $question->event())
            : $this->reader->outcome($target, $question->classes());
    }

    /**
     * @return array{DataTable, list<int>, list<float>}|null the table, those of its rows that are for this use, and what came of all of its
     *                                                       rows
     */
    private function rows(Trial $trial, string $use): ?array
    {
        $known = $trial->newer();
        if (null === $known || $use !== $known->use) {
            return null;
        }
        $newer = $this->entities->find(DataTable::class, $known->table) ?? throw new Problem(
            409,
            'The newer records that it learns from are gone.',
        );
        $came = $this->outcome($trial->question(), $newer);

        return [$newer, array_values(array_filter(
            \array_slice($this->order($newer, $known->by), 0, $known->rows),
            static fn (int $row): bool => is_finite($came[$row]),
        )), $came];
    }

    /** What its answers are to be held against newer records by; null where it learns from none in that way. */
    public function calibration(Trial $trial, ScoringModel $model): ?Calibrated
    {
        $own = $this->rows($trial, Newer::CALIBRATE);
        if (null === $own) {
            return null;
        }
        [$newer, $rows, $came] = $own;
        $cells = $this->reader->table($newer, array_values($model->byName()))->take($rows);

        return Remedies::calibration(new Judged(
            $model->task,
            array_map(static fn (int $row): float => $came[$row], $rows),
            $model->uncalibrated()->answers($model->select($cells, $model->byName())),
        ));
    }

    /**
     * @param list<float>                      $outcome
     * @param ?list<float>                     $weights
     * @param list<int|float|string|null>|null $labels
     *
     * @return array{Table, list<float>, ?list<float>, list<int|float|string|null>|null, list<int>} all of it with the newer records below,
     *                                                                                              and their places
     */
    public function below(Trial $trial, Table $table, array $outcome, ?array $weights, ?array $labels): array
    {
        $own = $this->rows($trial, Newer::LEARN);
        if (null === $own) {
            return [$table, $outcome, $weights, $labels, []];
        }
        [$newer, $rows, $came] = $own;

        $known = array_map(static fn (int $row): float => $came[$row], $rows);

        return $this->under($trial, $newer, $rows, $known, $table, $outcome, $weights, $labels);
    }

    /**
     * Newer records below those of the study: each counts by the study's column of weights where the newer ones have it, else once.
     *
     * @param list<int>                        $rows    of the newer table
     * @param list<float>                      $came    of those rows
     * @param list<float>                      $outcome
     * @param ?list<float>                     $weights
     * @param list<int|float|string|null>|null $labels
     * @param array<string, string>            $match   what the study calls a column => what the newer table calls it
     *
     * @return array{Table, list<float>, ?list<float>, list<int|float|string|null>|null, list<int>}
     *
     * @throws Problem where a column is missing
     */
    public function under(
        Trial $trial,
        DataTable $newer,
        array $rows,
        array $came,
        Table $table,
        array $outcome,
        ?array $weights,
        ?array $labels,
        array $match = [],
    ): array {
        $columns = [];
        foreach ($table->columns() as $name => $column) {
            $own = $newer->column($match[$name] ?? (string) $name)
                ?? throw new Problem(409, \sprintf('The newer records have no column %s.', $name));
            $columns[$name] = Conversion::to($this->reader->column($own), $column->kind())->take($rows);
        }

        return [
            Stacked::of($table, Table::of($columns, \count($rows))),
            [...$outcome, ...$came],
            null === $weights ? null : [...$weights, ...$this->weights($trial, $newer, $rows)],
            // Of no group and no day of the study: each is a record of its own.
            null === $labels ? null : [...$labels, ...array_map(static fn (int $row): string => 'newer '.$row, $rows)],
            [] === $rows ? [] : range($table->rows, $table->rows + \count($rows) - 1),
        ];
    }

    /**
     * @param list<int> $rows
     *
     * @return list<float>
     */
    private function weights(Trial $trial, DataTable $newer, array $rows): array
    {
        $name = $this->ground->weight($trial->study())?->name();
        $column = null === $name ? null : $newer->column($name);
        $cells = null === $column ? null : Conversion::to($this->reader->column($column), Kind::Number);

        return $cells instanceof NumberColumn
            ? array_map(static fn (int $row): float => is_nan($cells->values[$row]) ? 0.0 : max(0.0, $cells->values[$row]), $rows)
            : array_fill(0, \count($rows), 1.0);
    }
}
