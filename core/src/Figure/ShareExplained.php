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
        $weights = $sample->weights ?? array_fill(0, $sample->rows(), 1.0);
        $all = array_sum($weights);
        $mean = static function (array $values) use ($weights, $all): float {
            /** @var list<float> $values */
            $sum = 0.0;
            foreach ($values as $i => $v) {
                $sum += $weights[$i] * $v;
            }

            return $sum / $all;
        };
        $middle = $mean($sample->outcome);
        $variance = $mean(array_map(static fn (float $y): float => ($y - $middle) * ($y - $middle), $sample->outcome));

        return $variance > 0.0 ? 1 - $mean(self::squares($sample)) / $variance : null;
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
