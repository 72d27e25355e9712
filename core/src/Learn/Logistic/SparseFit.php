<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Progress;
use Dokimos\Core\Silent;

/**
 * Maximum likelihood with a price on the size of the coefficients: proximal Newton steps, each solved by coordinate descent with soft
 * thresholds (Friedman, Hastie and Tibshirani 2010), so that zeros are exact zeros.
 *
 * J(b) = −ℓ(b) + λ (α Σ|b| + ½ (1 − α) Σ b²), the constant free.
 */
final class SparseFit
{
    private const STEPS = 200;
    private const CYCLES = 10_000;

    /** @var list<float> */
    public array $beta = [];
    public float $logLikelihood = -\INF;
    public float $objective = \INF;

    /** @param Smooth $smooth with the ridge λ (1 − α) */
    public function __construct(private readonly Smooth $smooth, private readonly float $price)
    {
    }

    /** @param list<float> $start */
    public function run(array $start, ?Progress $progress = null): self
    {
        $progress ??= new Silent();
        $beta = $start;
        [$value, $gradient, $information] = $this->smooth->evaluate($beta);
        $objective = $this->price * $this->size($beta) - $value;
        for ($step = 1; $step <= self::STEPS; ++$step) {
            $progress->report(min(0.95, $step / 20));
            $target = $this->solved($beta, $gradient, $information);
            $better = false;
            $moved = 0.0;
            for ($size = 1.0; $size > 1e-8; $size *= 0.5) {
                $candidate = [];
                $moved = 0.0;
                foreach ($beta as $j => $b) {
                    $candidate[] = 1.0 === $size ? $target[$j] : $b + $size * ($target[$j] - $b);
                    $moved = max($moved, abs($target[$j] - $b) / (1 + abs($b)));
                }
                [$newValue, $newGradient, $newInformation] = $this->smooth->evaluate($candidate);
                $new = $this->price * $this->size($candidate) - $newValue;
                if ($new <= $objective + 1e-13 * abs($objective)) {
                    $better = true;
                    break;
                }
            }
            if (!$better) {
                break;
            }
            [$beta, $objective, $value, $gradient, $information] = [$candidate, $new, $newValue, $newGradient, $newInformation];
            if ($moved < 1e-11) {
                break;
            }
        }
        $this->beta = $beta;
        $this->objective = $objective;
        $this->logLikelihood = $value + $this->smooth->penalty($beta);

        return $this;
    }

    /** @param list<float> $beta */
    private function size(array $beta): float
    {
        $sum = 0.0;
        $width = $this->smooth->width();
        foreach ($beta as $j => $b) {
            $sum += 0 === $j % $width ? 0.0 : abs($b);
        }

        return $sum;
    }

    /**
     * The least of the quadratic that touches −ℓ here, with the price.
     *
     * @param list<float>       $beta
     * @param list<float>       $gradient    of ℓ
     * @param list<list<float>> $information lower triangle
     *
     * @return list<float>
     */
    private function solved(array $beta, array $gradient, array $information): array
    {
        $p = \count($beta);
        $width = $this->smooth->width();
        $a = [];
        for ($i = 0; $i < $p; ++$i) {
            for ($j = 0; $j < $p; ++$j) {
                $a[$i][$j] = $i >= $j ? $information[$i][$j] : $information[$j][$i];
            }
        }
        // Slope of the quadratic at the current point; kept up to date as coordinates move.
        $slope = $gradient;
        $b = $beta;
        for ($cycle = 0; $cycle < self::CYCLES; ++$cycle) {
            $largest = 0.0;
            for ($j = 0; $j < $p; ++$j) {
                $curve = $a[$j][$j];
                if ($curve <= 0.0) {
                    continue;
                }
                $pull = $slope[$j] + $curve * $b[$j];
                $new = 0 === $j % $width ? $pull / $curve : ($pull > $this->price ? ($pull - $this->price) / $curve : ($pull < -$this->price ? ($pull + $this->price) / $curve : 0.0));
                $change = $new - $b[$j];
                if (0.0 !== $change) {
                    $b[$j] = $new;
                    $row = $a[$j];
                    for ($k = 0; $k < $p; ++$k) {
                        $slope[$k] -= $row[$k] * $change;
                    }
                    $largest = max($largest, abs($change) / (1 + abs($new)));
                }
            }
            if ($largest < 1e-13) {
                break;
            }
        }

        return array_values($b);
    }
}
