<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Progress;
use Dokimos\Core\Silent;

/**
 * Chooses columns of a regression step by step, and keeps what was weighed at every step. A category is one candidate: all its terms
 * enter or leave together. Definitions: docs/methods/selection.md.
 */
final class Selection
{
    public const FORWARD = 'forward';
    public const BACKWARD = 'backward';
    public const STEPWISE = 'stepwise';

    /** @var array<string, Candidate> fits by their columns, so that none is made twice */
    private array $fitted = [];

    /**
     * @param \Closure(list<string>): Candidate $fit     on the same rows whatever the columns
     * @param list<string>                      $columns in the order that ties go by
     * @param int                               $most    steps, at most; 0 = no limit
     */
    public function __construct(private readonly \Closure $fit, private readonly array $columns, private readonly int $most = 0, private readonly Progress $progress = new Silent())
    {
    }

    /**
     * @param float $penalty for each parameter: 2 for AIC, ln n for BIC
     *
     * @return \Closure(list<string>): float
     */
    public function criterion(float $penalty): \Closure
    {
        return fn (array $model): float => $this->of(array_values(array_filter($model, is_string(...))))->aic($penalty);
    }

    /** @param list<string> $model */
    public function of(array $model): Candidate
    {
        return $this->fitted[implode("\0", $model)] ??= ($this->fit)($model);
    }

    /**
     * @param list<string> $model
     *
     * @return list<string> in the order of the candidates
     */
    private function with(array $model, string $column): array
    {
        return array_values(array_filter($this->columns, static fn (string $c) => $c === $column || \in_array($c, $model, true)));
    }

    /**
     * @param list<string> $model
     *
     * @return list<string>
     */
    private function without(array $model, string $column): array
    {
        return array_values(array_filter($model, static fn (string $c) => $c !== $column));
    }

    /**
     * By p-values: enters the column with the least while it is under $enter; removes the one with the greatest while it is over $stay.
     *
     * @return array{final: list<string>, trace: list<array<string, mixed>>}
     */
    public function byP(string $method, float $enter, float $stay): array
    {
        $model = self::BACKWARD === $method ? $this->columns : [];
        $trace = [];
        $steps = 0;
        while (0 === $this->most || $steps < $this->most) {
            $this->progress->report(min(0.9, $steps / (\count($this->columns) + 1)));
            if (self::BACKWARD === $method) {
                $refused = $this->removal($model, $stay, $trace);
            } else {
                $refused = $this->entry($model, $enter, $trace);
                while (null === $refused && self::STEPWISE === $method && \count($model) > 1 && null === $this->removal($model, $stay, $trace)) {
                    ++$steps;
                    if ($steps > 4 * \count($this->columns) + 20) {
                        // Thresholds that let a column in and out for ever end here.
                        break 2;
                    }
                }
            }
            if (null !== $refused) {
                $trace[] = ['action' => 'stop', 'term' => null, 'candidates' => $refused];
                break;
            }
            if (++$steps > 4 * \count($this->columns) + 20) {
                break;
            }
        }

        return ['final' => $model, 'trace' => $trace];
    }

    /**
     * @param list<string>               $model changed when a column enters
     * @param list<array<string, mixed>> $trace
     *
     * @return ?list<array<string, mixed>> the candidates, when none enters
     */
    private function entry(array &$model, float $enter, array &$trace): ?array
    {
        $now = $this->of($model);
        $candidates = [];
        $best = null;
        foreach (array_diff($this->columns, $model) as $column) {
            $test = $this->of($this->with($model, $column))->beyond($now);
            $candidates[] = self::line($column, $test, $now);
            if (null === $best || $test['p'] < $best[1]) {
                $best = [$column, $test['p']];
            }
        }
        if (null === $best || $best[1] >= $enter) {
            return $candidates;
        }
        $model = $this->with($model, $best[0]);
        $trace[] = ['action' => 'enter', 'term' => $best[0], 'candidates' => $candidates, 'model' => $model];

        return null;
    }

    /**
     * @param list<string>               $model changed when a column leaves
     * @param list<array<string, mixed>> $trace
     *
     * @return ?list<array<string, mixed>>
     */
    private function removal(array &$model, float $stay, array &$trace): ?array
    {
        $now = $this->of($model);
        $candidates = [];
        $worst = null;
        foreach ($model as $column) {
            $smaller = $this->of($this->without($model, $column));
            $test = $now->beyond($smaller);
            $candidates[] = self::line($column, $test, $now);
            if (null === $worst || $test['p'] > $worst[1]) {
                $worst = [$column, $test['p']];
            }
        }
        if (null === $worst || $worst[1] <= $stay) {
            return $candidates;
        }
        $model = $this->without($model, $worst[0]);
        $trace[] = ['action' => 'remove', 'term' => $worst[0], 'candidates' => $candidates, 'model' => $model];

        return null;
    }

    /**
     * @param array{statistic: float, df: int, p: float} $test
     *
     * @return array<string, mixed>
     */
    private static function line(string $column, array $test, Candidate $of): array
    {
        return ['term' => $column, null === $of->rss ? 'lr_chi2' : 'f' => $test['statistic'], 'df' => $test['df'], 'p' => $test['p']];
    }

    /**
     * By a criterion: at each step the single change that lowers it most; none left ends it.
     *
     * @param string                        $key   what the criterion is called in the trace
     * @param \Closure(list<string>): float $score of a model by its columns; for an information criterion: criterion()
     *
     * @return array{final: list<string>, value: float, trace: list<array<string, mixed>>}
     */
    public function byCriterion(string $method, string $key, \Closure $score): array
    {
        $model = self::BACKWARD === $method ? $this->columns : [];
        $now = $score($model);
        $trace = [['action' => 'start', $key => $now, 'model' => $model]];
        for ($step = 0; 0 === $this->most || $step < $this->most; ++$step) {
            $this->progress->report(min(0.9, $step / (\count($this->columns) + 1)));
            $candidates = [['action' => 'none', 'term' => null, $key => $now]];
            $best = null;
            foreach (self::FORWARD === $method ? [] : $model as $column) {
                $smaller = $this->without($model, $column);
                $candidates[] = ['action' => 'remove', 'term' => $column, $key => $value = $score($smaller)];
                $best = null === $best || $value < $best[1] ? [$smaller, $value, 'remove', $column] : $best;
            }
            foreach (self::BACKWARD === $method ? [] : array_diff($this->columns, $model) as $column) {
                $larger = $this->with($model, $column);
                $candidates[] = ['action' => 'enter', 'term' => $column, $key => $value = $score($larger)];
                $best = null === $best || $value < $best[1] ? [$larger, $value, 'enter', $column] : $best;
            }
            // What rounding alone lowers would go on for ever.
            if (null === $best || $best[1] >= $now - 1e-9 * abs($now)) {
                $trace[] = ['action' => 'stop', $key => $now, 'candidates' => $candidates];
                break;
            }
            [$model, $now] = $best;
            $trace[] = ['action' => $best[2], 'term' => $best[3], $key => $now, 'model' => $model, 'candidates' => $candidates];
        }

        return ['final' => $model, 'value' => $now, 'trace' => $trace];
    }
}
