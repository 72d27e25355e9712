<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\ClassJudgment;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\NumberJudgment;

/** The figures of a trial in which records count by their weight; all others count each record once. Definition: docs/methods/weights.md. */
final class WeightedFigures
{
    /**
     * @param list<string>          $classes
     * @param non-empty-list<float> $known   outcomes
     * @param list<list<float>>     $answers per class of several, else one list
     * @param list<float>           $weights
     *
     * @return array<string, mixed>
     */
    public static function of(string $task, array $classes, array $known, array $answers, array $weights): array
    {
        // Whole numbers are counts of records, and their intervals are those of so many records.
        $counts = [] === array_filter($weights, static fn (float $w): bool => floor($w) !== $w);

        return match ($task) {
            AboutLearner::NUMBER => self::number($known, $answers[0], $weights, $counts),
            AboutLearner::MORE => self::several($classes, $known, $answers, $weights, $counts),
            default => self::event($known, $answers[0], $weights, $counts),
        };
    }

    /**
     * @param list<float> $actual
     * @param list<float> $predicted
     * @param list<float> $weights
     *
     * @return array<string, mixed>
     */
    private static function number(array $actual, array $predicted, array $weights, bool $counts): array
    {
        $of = static function (array $errors) use ($weights, $counts): array {
            /** @var list<float> $errors */
            return [
                'rmse' => NumberJudgment::root(Interval::mean(array_map(static fn (float $e): float => $e * $e, $errors), $weights, $counts)),
                'mae' => Interval::mean(array_map(abs(...), $errors), $weights, $counts),
                'bias' => Interval::mean($errors, $weights, $counts),
            ];
        };
        $mean = (float) Interval::mean($actual, $weights)->value;

        return array_map(static fn (Interval $i): array => $i->toArray(), $of(array_map(static fn (float $p, float $a): float => $p - $a, $predicted, $actual))) + [
            'baseline' => array_map(static fn (Interval $i): ?float => $i->value, $of(array_map(static fn (float $a): float => $mean - $a, $actual))) + ['mean' => $mean],
        ];
    }

    /**
     * @param list<string>      $classes
     * @param list<float>       $actual
     * @param list<list<float>> $shares
     * @param list<float>       $weights
     *
     * @return array<string, mixed>
     */
    private static function several(array $classes, array $actual, array $shares, array $weights, bool $counts): array
    {
        $entropy = 0.0;
        foreach (array_keys($classes) as $class) {
            $share = (float) Interval::mean(array_map(static fn (float $a): float => (float) ((int) $a === $class), $actual), $weights)->value;
            $entropy -= $share > 0.0 ? $share * log($share) : 0.0;
        }

        return ['logLoss' => Interval::mean(ClassJudgment::losses(array_map(intval(...), $actual), $shares), $weights, $counts)->toArray(), 'baseline' => ['logLoss' => $entropy]];
    }

    /**
     * @param list<float> $event
     * @param list<float> $score
     * @param list<float> $weights
     *
     * @return array<string, mixed>
     */
    private static function event(array $event, array $score, array $weights, bool $counts): array
    {
        $scores = new BinaryScores($event, $score);
        $rate = (float) Interval::mean($event, $weights)->value;

        return [
            'auc' => $rate > 0.0 && $rate < 1.0 ? DeLong::of($event, $score, $weights, $counts)->interval()->toArray() : null,
            'logLoss' => Interval::mean($scores->logLosses(), $weights, $counts)->toArray(),
            'brier' => Interval::mean($scores->squares(), $weights, $counts)->toArray(),
            'baseline' => ['logLoss' => $rate > 0.0 && $rate < 1.0 ? -$rate * log($rate) - (1 - $rate) * log(1 - $rate) : 0.0, 'brier' => $rate * (1 - $rate)],
        ];
    }
}
