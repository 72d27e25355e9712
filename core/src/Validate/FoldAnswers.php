<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/**
 * What the folds of a trial answered for rows that their models had not seen, repeat by repeat, and what follows from it for the figure of the
 * procedure on new rows. Definitions: docs/methods/intervals.md.
 */
final readonly class FoldAnswers
{
    /** Found by simulation so that intervals hold the truth in 92 to 98 % with and without signal: docs/methods/intervals.md. */
    private const TRAINING = 2.2;
    /** With fewer events in a fold its own AUC says next to nothing: then all folds of a repeat are judged together. */
    private const FEWEST_EVENTS = 5;
    /** Of fewer groups, or moments, the rows say too little about others to give an interval. */
    public const FEWEST_UNITS = 10;

    /**
     * @param list<float>             $outcome per row
     * @param list<Answers>           $answers per repeat, for all rows; NAN = not validated there, or no answer
     * @param list<list<list<int>>>   $parts   per repeat and fold the rows it validated
     * @param list<list<list<float>>> $nothing per repeat and fold what the baseline answers, learned on the fold's training rows
     * @param list<float>             $ratios  validation rows for one training row, of each fold of a repeat
     * @param ?list<float>            $weights per row
     * @param ?int                    $units   groups or moments that the rows are of, when they are divided by these
     */
    public function __construct(
        private string $task,
        private array $outcome,
        private array $answers,
        private array $parts,
        private array $nothing,
        private array $ratios,
        private ?array $weights = null,
        private ?int $units = null,
    ) {
    }

    /** @return list<int> rows that some fold validated, in order */
    public function rows(): array
    {
        $rows = array_merge(...($this->parts[0] ?? []));
        sort($rows);

        return $rows;
    }

    /**
     * The first repeat: each row once, by a model like the one that scores.
     *
     * @return Answers of rows(), in their order; NAN = no answer
     */
    public function first(): Answers
    {
        return $this->answers[0]->take($this->rows());
    }

    /** The same, with the baseline's answer where there is none. */
    public function firstFilled(): Answers
    {
        $by = [];
        foreach ($this->parts[0] ?? [] as $fold => $rows) {
            foreach ($rows as $i => $row) {
                $by[$row] = $this->filled(0, $fold, [$row])->values;
            }
        }
        ksort($by);

        return new Answers(array_merge(...array_values($by)), $this->answers[0]->width);
    }

    /**
     * The figure fold by fold; where a trial has no answer the baseline's counts.
     *
     * @param ?list<bool> $only rows that count; all when null
     *
     * @return list<?float> one per repeat and fold; null where it is not defined
     */
    public function each(Figure $figure, ?array $only = null): array
    {
        $each = [];
        foreach ($this->parts as $repeat => $parts) {
            foreach ($parts as $fold => $rows) {
                $rows = null === $only ? $rows : array_values(array_filter($rows, static fn (int $row): bool => $only[$row]));
                $each[] = [] === $rows ? null : $figure->value(
                    $this->at($this->outcome, $rows),
                    $this->filled($repeat, $fold, $rows),
                    null === $this->weights ? null : $this->at($this->weights, $rows),
                );
            }
        }

        return $each;
    }

    /**
     * The mean of the folds' figures, with the interval of the first repeat widened for the training rows having been drawn too; below five
     * events in a fold the figure of all folds together.
     *
     * @param Interval $rows the figure's interval on the rows of the first repeat
     *
     * @return array{interval: Interval, each: list<?float>, pooled: bool}
     */
    public function judged(Figure $figure, Interval $rows): array
    {
        $each = $this->each($figure);
        $known = array_values(array_filter($each, static fn (?float $v): bool => null !== $v));
        $pooled = $this->isSparse() || [] === $known;
        $value = $pooled ? $this->together($figure) ?? $rows->value : array_sum($known) / \count($known);
        if (null === $value) {
            return ['interval' => new Interval(null), 'each' => $each, 'pooled' => $pooled];
        }
        if (null !== $this->units && $this->units < self::FEWEST_UNITS) {
            return ['interval' => new Interval($value), 'each' => $each, 'pooled' => $pooled];
        }

        return [
            'interval' => $this->widened($rows, $value, $figure->ratio, $figure->least, $figure->most),
            'each' => $each,
            'pooled' => $pooled,
        ];
    }

    /** An interval of the first repeat's rows, as one of the procedure. */
    public function widened(Interval $rows, float $value, bool $ratio = false, ?float $least = null, ?float $most = null): Interval
    {
        return $rows->around($value, sqrt(1 + self::TRAINING * $this->ratio()), $ratio, $least, $most);
    }

    /** Validation rows for one training row, where the most rows taught. */
    private function ratio(): float
    {
        return min([1.0, ...$this->ratios]);
    }

    /** Mean ratio over the folds, for comparing two trials fold by fold. */
    public function meanRatio(): float
    {
        return [] === $this->ratios ? 0.0 : array_sum($this->ratios) / \count($this->ratios);
    }

    /** Whether some fold has hardly an event, or hardly anything else. */
    private function isSparse(): bool
    {
        if (Task::TWO !== $this->task) {
            return false;
        }
        foreach ($this->parts as $parts) {
            foreach ($parts as $rows) {
                $events = array_sum($this->at($this->outcome, $rows));
                if (min($events, \count($rows) - $events) < self::FEWEST_EVENTS) {
                    return true;
                }
            }
        }

        return false;
    }

    /** The figure of all folds of a repeat together, as the mean over the repeats. */
    private function together(Figure $figure): ?float
    {
        $values = [];
        foreach ($this->parts as $repeat => $parts) {
            $outcome = $answers = $weights = [];
            foreach ($parts as $fold => $rows) {
                array_push($outcome, ...$this->at($this->outcome, $rows));
                array_push($answers, ...$this->filled($repeat, $fold, $rows)->values);
                array_push($weights, ...(null === $this->weights ? [] : $this->at($this->weights, $rows)));
            }
            $value = [] === $outcome ? null : $figure->value(
                $outcome,
                new Answers($answers, $this->answers[$repeat]->width),
                null === $this->weights ? null : $weights,
            );
            if (null !== $value) {
                $values[] = $value;
            }
        }

        return [] === $values ? null : array_sum($values) / \count($values);
    }

    /** @param list<int> $rows */
    private function filled(int $repeat, int $fold, array $rows): Answers
    {
        $answers = $this->answers[$repeat];
        $out = [];
        foreach ($rows as $row) {
            array_push($out, ...($answers->isKnown($row) ? $answers->of($row) : $this->nothing[$repeat][$fold]));
        }

        return new Answers($out, $answers->width);
    }

    /** @return list<bool> by row: whether every repeat that validated it has an answer */
    public function answered(): array
    {
        $known = array_fill(0, \count($this->outcome), true);
        foreach ($this->parts as $repeat => $parts) {
            foreach ($parts as $rows) {
                foreach ($rows as $row) {
                    $known[$row] = $known[$row] && $this->answers[$repeat]->isKnown($row);
                }
            }
        }

        return array_values($known);
    }

    /** The answers of the only part, for a row-by-row comparison. */
    public function hasFolds(): bool
    {
        return \count($this->parts[0] ?? []) * \count($this->parts) > 1;
    }

    /** @return list<float> outcomes of rows() */
    public function outcomes(): array
    {
        return $this->at($this->outcome, $this->rows());
    }

    /**
     * @param list<float> $values
     * @param list<int>   $rows
     *
     * @return list<float>
     */
    private function at(array $values, array $rows): array
    {
        return array_map(static fn (int $row): float => $values[$row], $rows);
    }
}
