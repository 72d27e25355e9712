<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Http\Problem;
use App\Judgment\Judgments;
use App\Question\OpenCells;
use App\Question\Seal;
use App\Score\Scoring;
use App\Table\DataTable;
use App\Trial\Trial;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;

/** Reads records that are asked about. */
final readonly class Subjects
{
    public function __construct(private Judgments $judgments, private OpenCells $reader, private Bases $bases)
    {
    }

    public function ofTrial(Trial $trial, int $number): Subject
    {
        $table = $trial->question()->table() ?? throw Problem::notFound('table');
        $model = $this->judgments->model($trial);
        if (0 === $number) {
            return $this->typical($trial, $model, $table);
        }

        return $this->read($trial, $model, $table, $model->byName(), $number, Seal::of($trial->question())->holds($number - 1), true);
    }

    public function ofBatch(Scoring $scoring, int $number): Subject
    {
        $trial = $scoring->trial();
        $model = $scoring->isByHanded() ? $this->judgments->inUse($trial) : $this->judgments->model($trial);

        return $this->read($trial, $model, $scoring->table(), $scoring->matching(), $number, false, false, $scoring->isByHanded());
    }

    /**
     * Many records of a scored list at once: each stretch of the table is read once.
     *
     * @param non-empty-list<int> $rows counted from 0
     *
     * @return array{Reasoning, Table} the records as the model asks for them, in this order
     */
    public function group(Scoring $scoring, array $rows): array
    {
        $trial = $scoring->trial();
        $model = $scoring->isByHanded() ? $this->judgments->inUse($trial) : $this->judgments->model($trial);
        $frames = [];
        foreach ($rows as $k => $row) {
            $frames[intdiv($row, FrameCodec::ROWS)][$k] = $row % FrameCodec::ROWS;
        }
        $found = null;
        $order = [];
        foreach ($frames as $frame => $places) {
            $cells = $this->reader->part($scoring->table(), null, $frame)->take(array_values($places));
            $part = $model->select($cells, $scoring->matching());
            $found = null === $found ? $part : Stacked::of($found, $part);
            array_push($order, ...array_keys($places));
        }
        asort($order);

        return [$this->bases->reasoning($trial, $model, $scoring->isByHanded()), $found->take(array_keys($order))];
    }

    /** A record from scratch: the middle of every number, the most frequent of every value. */
    private function typical(Trial $trial, ScoringModel $model, DataTable $table): Subject
    {
        $reasoning = $this->bases->reasoning($trial, $model);
        $seen = $reasoning->basis->seen;
        $cells = $values = [];
        foreach ($seen->names() as $name) {
            $column = $seen->column($name);
            $known = array_values(array_filter(range(0, $seen->rows - 1), static fn (int $r): bool => !$column->isMissing($r)));
            $texts = array_count_values(array_map(static fn (int $r): string => (string) $column->text($r), $known));
            arsort($texts);
            $middle = match (true) {
                [] === $known => null,
                $column instanceof NumberColumn, $column instanceof DateColumn => self::middle($column, $known),
                default => (string) array_key_first($texts),
            };
            $values[$name] = $middle;
        }
        $record = Reasoning::changed($seen->take([0]), $values);
        foreach ($record->names() as $name) {
            $cells[$name] = $record->column($name)->text(0);
        }

        return new Subject($trial, $reasoning, $record, $cells, 0, $table->rows(), false, null);
    }

    /** @param non-empty-list<int> $known rows with a value */
    private static function middle(NumberColumn|DateColumn $column, array $known): float
    {
        $values = array_map(
            static fn (int $r): float => $column instanceof NumberColumn ? $column->values[$r] : floor($column->seconds[$r] / DateColumn::DAY),
            $known,
        );
        sort($values);

        return $values[intdiv(\count($values), 2)];
    }

    /** @param array<string, string> $match */
    private function read(
        Trial $trial,
        ScoringModel $model,
        DataTable $table,
        array $match,
        int $number,
        bool $sealed,
        bool $own,
        bool $handed = false,
    ): Subject {
        if ($number < 1 || $number > $table->rows()) {
            throw new Problem(404, \sprintf('%s has records 1 to %s.', $table->name(), number_format($table->rows())));
        }
        $one = $this->reader->record($table, $number - 1);
        $cells = [];
        foreach ($one->names() as $name) {
            $cells[$name] = $one->column($name)->text(0);
        }
        $reasoning = $this->bases->reasoning($trial, $model, $handed);
        $place = $own ? array_search($number, $reasoning->basis->numbers, true) : false;

        return new Subject(
            $trial,
            $reasoning,
            $model->select($one, $match),
            $cells,
            $number,
            $table->rows(),
            $sealed,
            false === $place ? null : $place,
            $handed,
        );
    }
}
