<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Design\Standardized;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Room;
use Dokimos\Core\Task\Task;

/** The training rows as a logistic regression meets them: coded, standardized, outcomes and weights in the same blocks. */
final readonly class LogisticDesign
{
    /**
     * @param Matrix            $raw               terms as coded
     * @param Matrix            $scaled            centered, and of one spread
     * @param list<float>       $means             of the terms
     * @param list<float>       $spreads           what they were divided by
     * @param list<list<float>> $y                 0/1 per block and row
     * @param list<list<float>> $weights
     * @param float             $weightedPositives weight of the rows with the event
     */
    private function __construct(public Coding $coding, public Matrix $raw, public Matrix $scaled, public array $means, public array $spreads, public array $y, public array $weights, private int $rowsTotal, private int $rowsUsed, private int $positives, public float $weightSum, private float $weightedPositives)
    {
    }

    /**
     * @param bool $scale otherwise terms are centered only
     *
     * @throws CannotFit when there is nothing to tell apart
     */
    public static function of(Task $task, Reading $reading, bool $scale): self
    {
        $usable = $task->usable();
        $coding = $task->coding($usable, $reading);
        $rows = $coding->complete($task->table, $usable);
        $y = $weights = [];
        $positives = 0;
        $weightSum = $weightedPositives = 0.0;
        foreach (array_chunk($rows, Matrix::BLOCK) as $chunk) {
            $yBlock = $wBlock = [];
            foreach ($chunk as $row) {
                $w = $task->weights[$row] ?? 1.0;
                $event = $task->outcome[$row];
                $yBlock[] = $event;
                $wBlock[] = $w;
                $weightSum += $w;
                $weightedPositives += $w * $event;
                $positives += $event > 0.5 ? 1 : 0;
            }
            $y[] = $yBlock;
            $weights[] = $wBlock;
        }
        if ($weightedPositives <= 0.0 || $weightedPositives >= $weightSum) {
            throw new CannotFit([] === $rows
                ? 'No training row has a value in every column used. Fill or set aside the columns with missing values first.'
                : \sprintf('All %s usable training rows have the same outcome, so there is nothing to tell apart.', number_format(\count($rows))));
        }
        Room::demand(\count($rows), \count($coding->terms) + 1, Matrix::isLarge(\count($rows), \count($coding->terms) + 1) ? 1 : 3);
        $raw = $coding->matrix($task->table, $rows, true);
        [$scaled, $means, $spreads] = Standardized::of($raw, $weights, $weightSum, $scale);

        return new self($coding, $raw, $scaled, $means, $spreads, $y, $weights, \count($task->rows), \count($rows), $positives, $weightSum, $weightedPositives);
    }

    /**
     * The same rows with some of the columns.
     *
     * @param list<string> $columns
     */
    public function only(array $columns): self
    {
        $drop = [];
        foreach ($this->coding->terms as $t => $term) {
            if (!\in_array($term->column, $columns, true)) {
                $drop[] = $t + 1;
            }
        }
        $gone = array_flip($drop);

        return new self($this->coding->only($columns), $this->raw->without($drop), $this->scaled->without($drop), array_values(array_diff_key($this->means, $gone)), array_values(array_diff_key($this->spreads, $gone)), $this->y, $this->weights, $this->rowsTotal, $this->rowsUsed, $this->positives, $this->weightSum, $this->weightedPositives);
    }

    /** The log-odds of the event among all rows: the constant of a model without columns. */
    public function constant(): float
    {
        return log($this->weightedPositives / ($this->weightSum - $this->weightedPositives));
    }

    public function figures(float $logLikelihood, int $parameters, int $steps): LogisticFigures
    {
        $p = $this->weightedPositives;
        $q = $this->weightSum - $p;

        return new LogisticFigures($this->rowsTotal, $this->rowsUsed, $this->positives, $this->weightSum, $logLikelihood, $p * log($p / $this->weightSum) + $q * log(1.0 - $p / $this->weightSum), $parameters, $steps);
    }

    /**
     * Where a fit on these terms may begin, from one on others: its coefficients on the scale of these, nothing for terms that it lacks.
     *
     * @return list<float>
     */
    public function near(LogisticModel $model): array
    {
        $by = [];
        foreach ($model->coefficients as $c) {
            $by[$c->name] = $c->estimate;
        }
        $start = [];
        $constant = $by['(intercept)'] ?? 0.0;
        foreach ($this->scaled->names as $j => $name) {
            if ($j > 0) {
                $start[$j] = ($by[$name] ?? 0.0) * $this->spreads[$j];
                $constant += ($by[$name] ?? 0.0) * $this->means[$j];
            }
        }
        // Terms that are gone said something on average.
        foreach ($model->coefficients as $j => $c) {
            $constant += $j > 0 && !\in_array($c->name, $this->scaled->names, true) ? $c->estimate * ($model->means[$j] ?? 0.0) : 0.0;
        }

        return [$constant, ...$start];
    }
}
