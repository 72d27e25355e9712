<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\Interval;

/** A figure that is a mean of what each row adds, or made of one. */
abstract readonly class RowMean extends Figure
{
    /** @return list<float> what each row adds to the mean */
    abstract public function losses(Sample $sample): array;

    /** What the figure is, given the mean. */
    protected function ofMean(float $mean): float
    {
        return $mean;
    }

    protected function measured(Sample $sample): ?float
    {
        return $this->ofMean(self::mean($this->losses($sample), $sample->weights ?? array_fill(0, $sample->rows(), 1.0)));
    }

    public function interval(Sample $sample): ?Interval
    {
        return Interval::mean($this->losses($sample), $sample->weights, $sample->counts());
    }

    public function difference(Sample $first, Sample $second): ?array
    {
        $values = [$this->measured($first), $this->measured($second)];
        if (null === $values[0] || null === $values[1]) {
            return null;
        }
        $own = $this->losses($first);
        $mean = Interval::mean(array_map(static fn (float $x, float $y): float => $x - $y, $own, $this->losses($second)), $first->weights);

        return [$values[0] - $values[1], null === $mean->high ? 0.0 : ($mean->high - (float) $mean->value) / Normal::Z95 / $this->slope($own, $values[0], $values[1])];
    }

    /**
     * How much of the mean's difference one unit of the figure's is.
     *
     * @param list<float> $losses of the first
     */
    protected function slope(array $losses, float $first, float $second): float
    {
        return 1.0;
    }

    public function redrawn(Sample $sample): \Closure
    {
        $losses = $this->losses($sample);

        return function (array $counts) use ($losses): ?float {
            /** @var array<int, float|int> $counts */
            $sum = $all = 0.0;
            foreach ($losses as $i => $loss) {
                $sum += $counts[$i] * $loss;
                $all += $counts[$i];
            }

            return $all > 0.0 ? $this->ofMean($sum / $all) : null;
        };
    }

    /**
     * @param list<float> $values
     * @param list<float> $weights
     */
    protected static function mean(array $values, array $weights): float
    {
        $sum = 0.0;
        foreach ($values as $i => $v) {
            $sum += $weights[$i] * $v;
        }

        return $sum / array_sum($weights);
    }
}
