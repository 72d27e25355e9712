<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Figure\Bias;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Measure\Calibration;
use Dokimos\Core\Measure\Confusion;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\NumberJudgment;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** The figures of a trial on rows that its models had not seen. Which interval is which: docs/methods/intervals.md. */
final class TrialFigures
{
    /**
     * @param string        $task    what is predicted
     * @param ?list<string> $classes of several
     * @param list<float>   $outcome one per row looked at
     * @param Answers       $answers of the same rows
     * @param ?list<float>  $weights one per row: how much it counts in the figures that go by weights, and in their baselines
     *
     * @return array<string, mixed> figures by their key
     */
    public static function of(string $task, ?array $classes, array $outcome, Answers $answers, ?array $weights = null): array
    {
        $sample = Sample::known($outcome, $answers, $weights, false);
        $counted = ['task' => $task, 'rows' => \count($outcome), 'unanswered' => \count($outcome) - ($sample?->rows() ?? 0)];
        if (null === $sample) {
            return $counted + (Task::TWO === $task ? ['events' => (int) array_sum($outcome)] : []);
        }
        if (null !== $sample->weights && array_sum($sample->weights) <= 0.0) {
            $sample = new Sample($sample->outcome, $sample->answers);
        }
        $figures = $baseline = [];
        foreach (Figures::of($task) as $figure) {
            if ($figure->judged) {
                $figures[$figure->key] = $figure->interval($sample)?->toArray();
            }
            $baseline[$figure->key] = $figure->baseline($sample);
        }
        $more = match ($task) {
            Task::NUMBER => self::number($sample),
            Task::MORE => self::several($classes ?? [], $sample),
            default => self::event($sample),
        };

        return $counted + $figures + ['baseline' => $baseline + (\is_array($more['baseline']) ? $more['baseline'] : [])] + $more;
    }

    /** @return array<string, mixed> */
    private static function number(Sample $sample): array
    {
        $predicted = $sample->answers->values;
        $governed = NumberJudgment::governing((new Bias())->losses($sample));

        return [
            'baseline' => ['mean' => $sample->mean()],
            'tenths' => NumberJudgment::tenths($sample->outcome, $predicted),
            'dots' => NumberJudgment::dots($sample->outcome, $predicted),
            'governed' => $governed <= self::GOVERNED_BY ? $governed : null,
        ];
    }

    /**
     * @param list<string> $classes
     *
     * @return array<string, mixed>
     */
    private static function several(array $classes, Sample $sample): array
    {
        $confusion = $sample->confusion();

        return [
            'baseline' => ['rows' => $sample->rows()],
            'confusion' => $confusion,
            'classes' => self::each($classes, $confusion, $sample->areas()),
        ];
    }

    /**
     * @param list<string>    $classes
     * @param list<list<int>> $confusion
     * @param list<?DeLong>   $areas
     *
     * @return list<array<string, mixed>>
     */
    private static function each(array $classes, array $confusion, array $areas): array
    {
        $each = [];
        foreach ($classes as $c => $name) {
            $hits = $confusion[$c][$c];
            $support = array_sum($confusion[$c]);
            $called = array_sum(array_column($confusion, $c));
            $each[] = [
                'name' => $name,
                'rows' => $support,
                'called' => $called,
                'precision' => Interval::wilson($hits, $called)->toArray(),
                'recall' => Interval::wilson($hits, $support)->toArray(),
                'f1' => Interval::f1($hits, $called - $hits, $support - $hits)->toArray(),
                'auc' => $areas[$c]?->interval()->toArray(),
            ];
        }

        return $each;
    }

    /** @return array<string, mixed> */
    private static function event(Sample $sample): array
    {
        $scores = $sample->scores();
        [$known, $score] = [$sample->outcome, $sample->answers->values];
        $rate = $sample->mean(false);

        return [
            'baseline' => ['recall' => $rate > 0.5 ? 1.0 : 0.0, 'precision' => $rate, 'rows' => $sample->rows()],
            'events' => (int) array_sum($known),
            'baseRate' => $rate,
            'cutoffs' => array_map(
                self::cutoff(...),
                $scores->atAll(array_map(static fn (CutOff $c): float => $c->value, CutOff::offered($rate))),
            ),
            'roc' => array_map(static fn (array $p) => [$p['fpr'], $p['tpr'], $p['threshold']], $scores->rocCurve(160)),
            'calibration' => self::calibration($sample),
            'tenths' => array_map(self::share(...), $scores->gains()),
            'histogram' => self::histogram($known, $score),
        ];
    }

    /** @return list<array<string, mixed>> bins of the chances, each with what came of it and the interval of that */
    public static function calibration(Sample $sample): array
    {
        return array_map(self::share(...), Calibration::of($sample->outcome, $sample->answers->values)->bins);
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
        $ranking = Figures::ranking($task);
        $by = [];
        foreach (Figures::of($task) as $figure) {
            if (!\array_key_exists($figure->key, $figures) && $figure->key !== $ranking->key) {
                continue;
            }
            /** @var array{value?: ?float, low?: ?float, high?: ?float} $given */
            $given = \is_array($figures[$figure->key] ?? null) ? $figures[$figure->key] : [];
            $one = new Interval($given['value'] ?? null, $given['low'] ?? null, $given['high'] ?? null);
            if (!$figure->byFold) {
                // Folds are too small for it: of the first repeat, with the same interval of the procedure.
                $figures[$figure->key] = null === $one->value ? $figures[$figure->key] ?? null : $folds->widened(
                    $one,
                    $one->value,
                    false,
                    $figure->least,
                    $figure->most,
                )->toArray();
                continue;
            }
            $judged = $folds->judged($figure, $one);
            $figures[$figure->key] = $judged['interval']->toArray();
            $by[$figure->key] = ['each' => $judged['each'], 'pooled' => $judged['pooled']] + $judged['interval']->toArray();
            if ($figure->key === $ranking->key) {
                $figures['folds'] = [
                    'each' => $judged['each'],
                    'pooled' => $judged['pooled'],
                    'training' => [] === $training ? null : array_sum($training) / \count($training),
                ] + $judged['interval']->toArray();
            }
        }

        return ['by' => $by] + $figures;
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
            $values = array_map(
                static fn (array $own): float => \is_float($own[$name] ?? null) || \is_int($own[$name] ?? null) ? (float) $own[$name] : 0.0,
                $lost,
            );
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
        return [
            'cutoff' => $c->cutoff,
            'tp' => (int) $c->tp,
            'fp' => (int) $c->fp,
            'fn' => (int) $c->fn,
            'tn' => (int) $c->tn,
        ] + array_map(static fn (Interval $i) => $i->toArray(), $c->intervals());
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
}
