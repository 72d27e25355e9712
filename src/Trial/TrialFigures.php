<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\Calibration;
use Dokimos\Core\Measure\ClassJudgment;
use Dokimos\Core\Measure\Confusion;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\NumberJudgment;
use Dokimos\Core\Validate\Figure;
use Dokimos\Core\Validate\FoldAnswers;
use Dokimos\Core\Validate\Resampled;

/** The figures of a trial on rows that its models had not seen. Which interval is which: docs/methods/intervals.md. */
final class TrialFigures
{
    /**
     * @param string        $task    what is predicted
     * @param ?list<string> $classes of several
     * @param list<float>   $outcome one per row looked at
     * @param list<float>   $answers NAN = the trial cannot answer for this row; of several classes the chances of all, row after row
     * @param ?list<float>  $weights one per row: how much it counts in AUC, log loss, Brier, RMSE, MAE and bias, and in their baselines
     *
     * @return array<string, mixed>
     */
    public static function of(string $task, ?array $classes, array $outcome, array $answers, ?array $weights = null): array
    {
        $width = AboutLearner::MORE === $task ? \count($classes ?? []) : 1;
        $known = $counts = [];
        $own = array_fill(0, max(1, $width), []);
        foreach ($outcome as $i => $y) {
            if (!is_nan($answers[$i * $width])) {
                $known[] = $y;
                $counts[] = $weights[$i] ?? 1.0;
                foreach ($own as $k => $_) {
                    $own[$k][] = $answers[$i * $width + $k];
                }
            }
        }
        $counted = ['task' => $task, 'rows' => \count($outcome), 'unanswered' => \count($outcome) - \count($known)];
        if ([] === $known) {
            return $counted + (AboutLearner::TWO === $task ? ['events' => (int) array_sum($outcome)] : []);
        }

        $figures = match ($task) {
            AboutLearner::NUMBER => self::number($known, $own[0]),
            AboutLearner::MORE => self::several($classes ?? [], $known, array_values($own)),
            default => self::event($known, $own[0]),
        };

        return $counted + (null === $weights || array_sum($counts) <= 0.0 ? $figures : array_replace_recursive($figures, WeightedFigures::of($task, $classes ?? [], $known, array_values($own), $counts)));
    }

    /**
     * @param non-empty-list<float> $actual
     * @param list<float>           $predicted
     *
     * @return array<string, mixed>
     */
    private static function number(array $actual, array $predicted): array
    {
        if ([] === $predicted) {
            return [];
        }
        $mean = array_sum($actual) / \count($actual);
        $intervals = static fn (array $of): array => array_map(static fn (Interval $i): array => $i->toArray(), $of);

        return $intervals(NumberJudgment::figures($actual, $predicted)) + [
            // The mean of the rows looked at: a little better than any mean learned elsewhere could be.
            'baseline' => array_map(static fn (Interval $i): ?float => $i->value, NumberJudgment::figures($actual, array_fill(0, \count($actual), $mean))) + ['mean' => $mean],
            'tenths' => NumberJudgment::tenths($actual, $predicted),
            'dots' => NumberJudgment::dots($actual, $predicted),
            'governed' => ($share = NumberJudgment::governing(array_map(static fn (float $p, float $a): float => $p - $a, $predicted, $actual))) <= self::GOVERNED_BY ? $share : null,
        ];
    }

    /**
     * @param list<string>          $classes
     * @param non-empty-list<float> $actual
     * @param list<list<float>>     $shares
     *
     * @return array<string, mixed>
     */
    private static function several(array $classes, array $actual, array $shares): array
    {
        return ClassJudgment::of($classes, array_map(intval(...), $actual), $shares);
    }

    /**
     * @param non-empty-list<float> $known
     * @param list<float>           $score
     *
     * @return array<string, mixed>
     */
    private static function event(array $known, array $score): array
    {
        $scores = new BinaryScores($known, $score);
        $rate = array_sum($known) / \count($known);
        $cutoffs = array_map(static fn (int $p) => $p / 100, range(0, 100));
        $drawn = $scores->drawnAgain();

        return [
            'events' => (int) array_sum($known),
            'baseRate' => $rate,
            'auc' => null === $scores->auc() ? null : DeLong::of($known, $score)->interval()->toArray(),
            'averagePrecision' => $drawn['averagePrecision']->toArray(),
            'ks' => $drawn['ks']->toArray(),
            'logLoss' => Interval::mean($scores->logLosses())->toArray(),
            'brier' => Interval::mean($scores->squares())->toArray(),
            'cutoffs' => array_map(self::cutoff(...), $scores->atAll($cutoffs)),
            'roc' => array_map(static fn (array $p) => [$p['fpr'], $p['tpr'], $p['threshold']], $scores->rocCurve(160)),
            'calibration' => array_map(self::share(...), Calibration::of($known, $score)->bins),
            'tenths' => array_map(self::share(...), $scores->gains()),
            'histogram' => self::histogram($known, $score),
            'baseline' => self::baseline($rate, \count($known)),
        ];
    }

    /** Where so few rows hold half of all squared error, RMSE is the figure of them. */
    private const GOVERNED_BY = 0.02;

    /**
     * The figures of a trial: means of the folds' figures, with the interval of the procedure; what is counted row by row is of the first repeat.
     *
     * @param ?list<string> $classes
     * @param list<float>   $training the ranking figure on each fold's training rows
     * @param ?list<float>  $weights  one per open row
     *
     * @return array<string, mixed>
     */
    public static function judged(string $task, ?array $classes, FoldAnswers $folds, array $training, ?array $weights): array
    {
        $rows = $folds->rows();
        $own = null === $weights ? null : array_map(static fn (int $row): float => $weights[$row], $rows);
        $figures = self::of($task, $classes, $folds->outcomes(), $folds->first(), $own);
        $interval = static function (mixed $of): Interval {
            /** @var array{value?: ?float, low?: ?float, high?: ?float} $given */
            $given = \is_array($of) ? $of : [];

            return new Interval($given['value'] ?? null, $given['low'] ?? null, $given['high'] ?? null);
        };
        $ranking = Figure::of($task);
        foreach (Figure::all($task) as $figure) {
            if (!\array_key_exists($figure->key, $figures) && $figure->key !== $ranking->key) {
                continue;
            }
            $judged = $folds->judged($figure, $interval($figures[$figure->key] ?? null));
            $figures[$figure->key] = $judged['interval']->toArray();
            if ($figure->key === $ranking->key) {
                $figures['folds'] = ['each' => $judged['each'], 'pooled' => $judged['pooled'], 'training' => [] === $training ? null : array_sum($training) / \count($training)] + $judged['interval']->toArray();
            }
        }
        // Figures that the folds are too small for: of the first repeat, with the same interval of the procedure.
        foreach (['ks' => [0.0, 1.0], 'within50' => [0.0, null], 'within90' => [0.0, null], 'bias' => [null, null], 'balancedAccuracy' => [0.0, 1.0], 'kappa' => [-1.0, 1.0], 'macroAuc' => [0.0, 1.0]] as $key => [$least, $most]) {
            $one = $interval($figures[$key] ?? null);
            if (null !== $one->value) {
                $figures[$key] = $folds->widened($one, $one->value, false, $least, $most)->toArray();
            }
        }

        return $figures;
    }

    /**
     * What the figure loses on validation rows when a column is shuffled among them, over the folds; most first.
     *
     * @param list<array<array-key, mixed>> $lost by column, one list per fold and repeat
     *
     * @return list<array{column: string, value: ?float, low: ?float, high: ?float}>
     */
    public static function importance(array $lost, int $perRepeat): array
    {
        $names = [];
        foreach ($lost as $own) {
            $names += $own;
        }
        $out = [];
        foreach (array_keys($names) as $name) {
            // A fold whose model did not ask for the column loses nothing by it.
            $values = array_map(static fn (array $own): float => \is_float($own[$name] ?? null) || \is_int($own[$name] ?? null) ? (float) $own[$name] : 0.0, $lost);
            $out[] = ['column' => (string) $name] + Resampled::interval($values, $perRepeat)->toArray();
        }
        usort($out, static fn (array $a, array $b) => $b['value'] <=> $a['value'] ?: strcmp($a['column'], $b['column']));

        return $out;
    }

    /**
     * @param array<string, mixed> $part of the rows by chance, with how many there are and how many with the event
     *
     * @return array<string, mixed> the same, with the ends of the share's interval
     */
    private static function share(array $part): array
    {
        \assert((\is_float($part['positives']) || \is_int($part['positives'])) && \is_int($part['n']));
        $share = Interval::wilson($part['positives'], $part['n']);

        return $part + ['rateLow' => $share->low, 'rateHigh' => $share->high];
    }

    /** @return array<string, mixed> counts, and each share with its interval */
    private static function cutoff(Confusion $c): array
    {
        return ['cutoff' => $c->cutoff, 'tp' => (int) $c->tp, 'fp' => (int) $c->fp, 'fn' => (int) $c->fn, 'tn' => (int) $c->tn] + array_map(static fn (Interval $i) => $i->toArray(), $c->intervals());
    }

    /**
     * @param list<float> $event
     * @param list<float> $score
     *
     * @return array{events: list<int>, others: list<int>} counts in forty bins of the chance
     */
    private static function histogram(array $event, array $score): array
    {
        $events = $others = array_fill(0, 40, 0);
        foreach ($score as $i => $s) {
            $b = min(39, (int) floor($s * 40));
            if ($event[$i] > 0.5) {
                ++$events[$b];
            } else {
                ++$others[$b];
            }
        }

        return ['events' => array_values($events), 'others' => array_values($others)];
    }

    /** @return array<string, float|int|string> what giving everybody the average chance, and calling the majority class, scores */
    private static function baseline(float $rate, int $rows): array
    {
        $entropy = $rate > 0.0 && $rate < 1.0 ? -$rate * log($rate) - (1 - $rate) * log(1 - $rate) : 0.0;

        return ['auc' => 0.5, 'accuracy' => max($rate, 1 - $rate), 'logLoss' => $entropy, 'brier' => $rate * (1 - $rate), 'recall' => $rate > 0.5 ? 1.0 : 0.0, 'precision' => $rate, 'rows' => $rows];
    }
}
