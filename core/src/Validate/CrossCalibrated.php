<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Calibrate\Calibrated;
use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Figure\LogLoss;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;

/**
 * Calibration of a trial, learned on the out-of-fold answers of the other folds and judged on this one; a single validation part is crossed
 * within itself. What scores new records learns from all of them. Definition: docs/methods/calibration.md.
 */
final readonly class CrossCalibrated
{
    /** Parts that a single validation part is crossed in. */
    private const WITHIN = 5;

    /**
     * @param list<Answers>         $answers    per repeat, each calibrated by what other folds taught
     * @param ?Calibrated           $calibrated what new records are answered with; null = as they come
     * @param array<string, ?float> $losses     log loss of each way that was weighed, on rows it had not learned from
     */
    private function __construct(public string $way, public array $answers, public ?Calibrated $calibrated, public array $losses)
    {
    }

    /**
     * @param string                $way     one of Way
     * @param list<float>           $outcome per row
     * @param list<Answers>         $answers per repeat, for all rows; NAN = none
     * @param list<list<list<int>>> $parts   per repeat and fold the rows it validated
     * @param ?list<float>          $weights per row
     *
     * @throws CannotCalibrate when there is nothing to hold chances against
     */
    public static function of(string $way, array $outcome, array $answers, array $parts, ?array $weights = null): self
    {
        $crossed = [Way::NONE => $answers];
        foreach (Way::BETTER === $way ? [Way::SIGMOID, Way::ISOTONIC] : array_diff([$way], [Way::NONE]) as $one) {
            try {
                $crossed[$one] = self::crossed($one, $outcome, $answers, $parts, $weights);
            } catch (CannotCalibrate $e) {
                Way::BETTER === $way || throw $e;
            }
        }
        $losses = array_map(static fn (array $repeats): ?float => self::loss($outcome, $repeats, $weights), $crossed);
        $best = Way::BETTER === $way ? array_keys(
            $losses,
            min(array_filter($losses, is_float(...)) ?: [null]),
            true,
        )[0] ?? Way::NONE : $way;

        return new self($best, $crossed[$best], Way::NONE === $best ? null : self::whole($best, $outcome, $answers, $weights), $losses);
    }

    /**
     * @param list<float>           $outcome
     * @param list<Answers>         $answers
     * @param list<list<list<int>>> $parts
     * @param ?list<float>          $weights
     *
     * @return list<Answers>
     */
    private static function crossed(string $way, array $outcome, array $answers, array $parts, ?array $weights): array
    {
        $out = [];
        foreach ($answers as $repeat => $own) {
            $folds = $parts[$repeat] ?? [];
            $folds = \count($folds) > 1 ? $folds : self::within($folds[0] ?? []);
            $values = $own->values;
            foreach ($folds as $held => $rows) {
                $others = array_merge(...array_values(array_diff_key($folds, [$held => true])));
                $calibrated = Calibrated::fit(
                    $way,
                    self::at($outcome, $others),
                    $own->take($others),
                    null === $weights ? null : self::at($weights, $others),
                );
                foreach ($calibrated->of($own->take($rows))->values as $i => $value) {
                    $values[$rows[intdiv($i, $own->width)] * $own->width + $i % $own->width] = $value;
                }
            }
            $out[] = new Answers(array_values($values), $own->width);
        }

        return $out;
    }

    /**
     * @param list<int> $rows
     *
     * @return list<list<int>>
     */
    private static function within(array $rows): array
    {
        $rows = Random::stream(2026, 'calibration')->shuffleArray($rows);
        $parts = array_fill(0, self::WITHIN, []);
        foreach (array_values($rows) as $i => $row) {
            $parts[$i % self::WITHIN][] = $row;
        }

        return array_values(array_filter($parts, static fn (array $p): bool => [] !== $p));
    }

    /**
     * @param list<float>   $outcome
     * @param list<Answers> $answers
     * @param ?list<float>  $weights
     */
    private static function whole(string $way, array $outcome, array $answers, ?array $weights): Calibrated
    {
        return Calibrated::fit($way, $outcome, $answers[0] ?? new Answers([]), $weights);
    }

    /**
     * @param list<float>   $outcome
     * @param list<Answers> $answers
     * @param ?list<float>  $weights
     */
    private static function loss(array $outcome, array $answers, ?array $weights): ?float
    {
        $figure = new LogLoss();
        $values = array_filter(
            array_map(static fn (Answers $own): ?float => $figure->value($outcome, $own, $weights), $answers),
            is_float(...),
        );

        return [] === $values ? null : array_sum($values) / \count($values);
    }

    /**
     * @param list<float> $values
     * @param list<int>   $rows
     *
     * @return list<float>
     */
    private static function at(array $values, array $rows): array
    {
        return array_map(static fn (int $row): float => $values[$row], $rows);
    }
}
