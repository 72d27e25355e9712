<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\LogRatio;
use Dokimos\Core\Task\Task;

/** R² = 1 − mean squared error / variance, with the bootstrap-t of the logarithm of the ratio. */
final readonly class ShareExplained extends Figure
{
    use OfErrors;

    public function __construct()
    {
        parent::__construct('r2', 'R2', 'share of the variance explained', 'The share of the variance that the predictions explain.', [Task::NUMBER], true, inUnits: true, most: 1.0);
    }

    protected function measured(Sample $sample): ?float
    {
        return $this->redrawn($sample)($sample->weights ?? array_fill(0, $sample->rows(), 1.0));
    }

    public function redrawn(Sample $sample): \Closure
    {
        $squares = self::squares($sample);
        // Around the mean of all, so that little is lost of the variance of numbers that lie close together far from 0.
        $middle = $sample->mean(false);
        $off = array_map(static fn (float $y): float => $y - $middle, $sample->outcome);

        return static function (array $counts) use ($squares, $off): ?float {
            /** @var array<int, float|int> $counts */
            $all = $sum = $around = $errors = 0.0;
            foreach ($off as $i => $d) {
                $c = $counts[$i];
                $all += $c;
                $sum += $c * $d;
                $around += $c * $d * $d;
                $errors += $c * $squares[$i];
            }
            $around -= $all > 0.0 ? $sum * $sum / $all : 0.0;

            return $around > 0.0 ? 1 - $errors / $around : null;
        };
    }

    public function interval(Sample $sample): Interval
    {
        $n = $sample->rows();
        $squares = self::squares($sample);
        $mean = $sample->mean(false);
        $around = array_map(static fn (float $a): float => ($a - $mean) ** 2, $sample->outcome);
        $variance = array_sum($around) / $n;
        if ($variance <= 0.0) {
            return new Interval(null);
        }
        $ratio = array_sum($squares) / $n / $variance;
        $ends = LogRatio::of($squares, $around);
        $all = 0.0 === $ratio ? 1.0 : null;

        return null === $ends ? new Interval(1 - $ratio, $all, $all) : new Interval(1 - $ratio, 1 - exp($ends[2]), 1 - exp($ends[1]));
    }

    private function weighted(): bool
    {
        return false;
    }
}
