<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\LogRatio;
use Dokimos\Core\Task\Task;

/** The root of the mean squared error: large errors count most. Interval: half of the logarithm of the mean of squares, by the bootstrap-t. */
final readonly class Rmse extends RowMean
{
    use OfErrors;

    public function __construct()
    {
        parent::__construct('rmse', 'RMSE', 'root of the mean squared error', 'How far predictions are off, large errors counting most; in the unit of the target. The mean for everybody is the measure to beat.', [Task::NUMBER], false, inUnits: true, ratio: true);
    }

    public function losses(Sample $sample): array
    {
        return self::squares($sample);
    }

    protected function ofMean(float $mean): float
    {
        return sqrt($mean);
    }

    public function interval(Sample $sample): Interval
    {
        $squares = self::squares($sample);
        if (null !== $sample->weights) {
            return self::root(Interval::mean($squares, $sample->weights, $sample->counts()));
        }
        $value = sqrt(array_sum($squares) / \count($squares));
        $ends = LogRatio::of($squares);
        $none = 0.0 === $value && \count($squares) > 1 ? 0.0 : null;

        return null === $ends ? new Interval($value, $none, $none) : new Interval($value, exp(0.5 * $ends[1]), exp(0.5 * $ends[2]));
    }

    /** On the scale of logarithms the interval of a mean of squares is even; half of it is that of the root. */
    private static function root(Interval $square): Interval
    {
        $value = sqrt(max(0.0, (float) $square->value));
        if (null === $square->high || 0.0 === $value) {
            return new Interval($value, null === $square->high ? null : $value, null === $square->high ? null : $value);
        }
        $factor = exp(0.5 * ($square->high / $square->value - 1));

        return new Interval($value, $value / $factor, $value * $factor);
    }

    /** A root is compared by the squares beneath it: their difference over the sum of both roots. */
    protected function slope(array $losses, float $first, float $second): float
    {
        return max(1e-300, $first + $second);
    }

    public function together(array $parts): float
    {
        return sqrt(parent::together(array_map(static fn (array $p): array => [$p[0], $p[1] ** 2], $parts)));
    }
}
