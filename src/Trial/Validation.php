<?php

declare(strict_types=1);

namespace App\Trial;

use App\Question\Ground;
use App\Question\Questions;
use App\Study\Study;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\SplitPlan;

/** How a study's open rows are divided, and what doing nothing answers in each fold: the same for every trial. */
final class Validation
{
    /** @var array{string, Folds}|null the division asked for last: many trials are compared on it */
    private ?array $last = null;

    public function __construct(private readonly Ground $ground, private readonly Questions $questions)
    {
    }

    public function of(Study $study): Folds
    {
        // The weights belong to the table and may change by themselves.
        $key = $this->questions->of($study)->hash().' '.$this->ground->weight($study)?->name();
        if (null === $this->last || $key !== $this->last[0]) {
            $this->last = [$key, $this->divided($study)];
        }

        return $this->last[1];
    }

    private function divided(Study $study): Folds
    {
        $plan = $this->questions->of($study)->plan() ?? throw new \LogicException('A trial has a split plan.');
        [, $outcome, $rows] = $this->ground->open($study, []);
        $labels = $this->ground->labels($study, $rows);
        $weights = $this->ground->weights($study, $rows);
        $classes = Answers::widthOf($this->questions->of($study)->classes());
        $parts = $nothing = $ratios = [];
        for ($repeat = 0; $repeat < $plan->repeats; ++$repeat) {
            $parts[$repeat] = $plan->parts($outcome, array_keys($outcome), $repeat, $labels);
            foreach ($parts[$repeat] as $fold => $validation) {
                $training = $plan->training($outcome, array_keys($outcome), $validation, $labels);
                $nothing[$repeat][$fold] = self::nothing($outcome, $training, $weights, $classes);
                if (0 === $repeat) {
                    $ratios[] = \count($validation) / max(1, \count($training));
                }
            }
        }
        $units = null === $labels || !\in_array(
            $plan->way,
            [SplitPlan::GROUP, SplitPlan::TIME],
            true,
        ) ? null : \count(array_unique(array_map(static fn (int|float|string|null $l): string => (string) $l, $labels)));

        return new Folds(
            $this->questions->of($study)->task(),
            $outcome,
            array_values($parts),
            array_values(array_map(array_values(...), $nothing)),
            $ratios,
            $weights,
            $units,
        );
    }

    /**
     * The mean of the training rows, of several classes their shares.
     *
     * @param list<float>  $outcome
     * @param list<int>    $training
     * @param ?list<float> $weights
     *
     * @return list<float>
     */
    private static function nothing(array $outcome, array $training, ?array $weights, int $classes): array
    {
        $sums = array_fill(0, $classes, 0.0);
        $all = 0.0;
        foreach ($training as $row) {
            $w = $weights[$row] ?? 1.0;
            $all += $w;
            if ($classes > 1) {
                $sums[(int) $outcome[$row]] += $w;
            } else {
                $sums[0] += $w * $outcome[$row];
            }
        }

        return array_map(static fn (float $s): float => $all > 0.0 ? $s / $all : 0.0, array_values($sums));
    }
}
