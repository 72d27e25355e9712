<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** How often a record with the event gets the higher chance of a pair; interval and difference by DeLong's variance (1988). */
final readonly class Auc extends Figure
{
    public function __construct()
    {
        parent::__construct('auc', 'AUC', 'area under the ROC curve', 'Take one record with the event and one without: how often does the model give the first the higher chance? A coin gets 0.500.', [Task::TWO], true, least: 0.0, most: 1.0);
    }

    protected function measured(Sample $sample): ?float
    {
        return (null === $sample->weights ? $sample->scores() : new BinaryScores($sample->outcome, $sample->answers->values, $sample->weights))->auc();
    }

    public function interval(Sample $sample): ?Interval
    {
        $rate = $sample->mean();

        return $rate > 0.0 && $rate < 1.0 ? DeLong::of($sample->outcome, $sample->answers->values, $sample->weights, $sample->counts())->interval() : null;
    }

    public function baseline(Sample $sample): float
    {
        return 0.5;
    }

    public function difference(Sample $first, Sample $second): ?array
    {
        if (null === $this->measured($first) || null === $this->measured($second)) {
            return null;
        }
        $test = DeLong::test(DeLong::of($first->outcome, $first->answers->values, $first->weights), DeLong::of($second->outcome, $second->answers->values, $second->weights));

        return [$test['auc_difference'], $test['se']];
    }

    /** Rows are put in order once, ties together. */
    public function redrawn(Sample $sample): \Closure
    {
        $scores = $sample->answers->values;
        arsort($scores);
        $order = [];
        $last = null;
        foreach ($scores as $row => $score) {
            if ($score === $last) {
                $order[\count($order) - 1][] = $row;
            } else {
                $order[] = [$row];
            }
            $last = $score;
        }
        $outcome = $sample->outcome;

        return static function (array $counts) use ($order, $outcome): ?float {
            /** @var array<int, float|int> $counts */
            $events = $others = $area = 0.0;
            foreach ($order as $tied) {
                $with = $without = 0.0;
                foreach ($tied as $row) {
                    if ($outcome[$row] > 0.5) {
                        $with += $counts[$row];
                    } else {
                        $without += $counts[$row];
                    }
                }
                $area += $without * ($events + 0.5 * $with);
                $events += $with;
                $others += $without;
            }

            return $events > 0.0 && $others > 0.0 ? $area / $events / $others : null;
        };
    }
}
