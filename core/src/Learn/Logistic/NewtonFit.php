<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\Curvature;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Progress;
use Dokimos\Core\Silent;

/**
 * Maximum likelihood by Newton's method (iteratively reweighted least squares), with step halving.
 *
 * ℓ(β) = Σ w [y ln p + (1 - y) ln(1 - p)] - ½ ridge Σ β² (without the constant). McCullagh and Nelder 1989, chapter 4.
 */
final class NewtonFit implements Smooth
{
    public const MOST_STEPS = 60;
    /** Twice what the log-likelihood can still gain, below which no coefficient moves by more than 1e-8 of its standard error. */
    private const NOTHING = 1e-16;

    /**
     * Coefficients when the likelihood has stopped growing.
     *
     * @var list<float>
     */
    public array $beta = [];
    /** @var list<list<float>> lower triangle of X'WX at beta, ridge included */
    public array $information = [];
    /** @var array{list<float>, array{float, list<float>, list<list<float>>}}|null the last place asked about, kept for run() */
    private ?array $first = null;
    /** Without the penalty. */
    public float $logLikelihood = -\INF;
    public int $steps = 0;
    public bool $converged = false;

    /**
     * @param list<list<float>> $y       0/1 per block and row
     * @param list<list<float>> $weights per block and row
     */
    public function __construct(private readonly Matrix $x, private readonly array $y, private readonly array $weights, private readonly float $ridge = 0.0)
    {
    }

    /**
     * @param ?list<float> $start
     * @param float        $enough stop where the log-likelihood can still grow by half of this; 0 = to the last digit
     *
     * @throws NotPositiveDefinite when the columns are dependent
     */
    public function run(?array $start = null, ?Progress $progress = null, float $enough = 0.0): self
    {
        $progress ??= new Silent();
        $width = \count($this->x->names);
        $beta = $start ?? array_values(array_fill(0, $width, 0.0));
        [$value, $gradient, $information] = null !== $this->first && $this->first[0] === $beta ? $this->first[1] : $this->evaluate($beta);
        for ($step = 1; $step <= self::MOST_STEPS; ++$step) {
            $progress->report(min(0.95, $step / 8));
            $direction = Cholesky::of($information)->solve($gradient);
            $decrement = 0.0;
            foreach ($direction as $i => $d) {
                $decrement += $d * $gradient[$i];
            }
            if ($decrement <= max(self::NOTHING, $enough)) {
                // A step this small is right without a look at where it leads.
                $beta = self::moved($beta, $direction, 1.0);
                $this->converged = true;
                break;
            }
            $this->steps = $step;
            $size = 1.0;
            $better = false;
            for ($halving = 0; $halving < 30; ++$halving) {
                $candidate = self::moved($beta, $direction, $size);
                [$newValue, $newGradient, $newInformation] = $this->evaluate($candidate);
                if ($newValue >= $value - 1e-13 * abs($value)) {
                    $better = true;
                    break;
                }
                $size *= 0.5;
            }
            if (!$better) {
                break;
            }
            $gain = $newValue - $value;
            [$beta, $value, $gradient, $information] = [$candidate, $newValue, $newGradient, $newInformation];
            if ($decrement <= 1e-13 * (abs($value) + 1e-3) || 1.0 === $size && abs($gain) <= 1e-15 * abs($value)) {
                $this->converged = true;
                break;
            }
        }
        $this->beta = $beta;
        $this->information = $information;
        $this->logLikelihood = $value + $this->penalty($beta);

        return $this;
    }

    /**
     * @param list<float> $beta
     * @param list<float> $direction
     *
     * @return list<float>
     */
    private static function moved(array $beta, array $direction, float $size): array
    {
        $moved = [];
        foreach ($beta as $i => $b) {
            $moved[] = $b + $size * $direction[$i];
        }

        return $moved;
    }

    /**
     * @param list<float> $beta
     *
     * @return list<list<float>> lower triangle of X'WX there
     */
    public function informationAt(array $beta): array
    {
        $this->first = [$beta, $this->evaluate($beta)];

        return $this->first[1][2];
    }

    public function width(): int
    {
        return \count($this->x->names);
    }

    /** @param list<float> $beta */
    public function penalty(array $beta): float
    {
        $sum = 0.0;
        foreach ($beta as $i => $b) {
            $sum += $i > 0 ? $b * $b : 0.0;
        }

        return 0.5 * $this->ridge * $sum;
    }

    /**
     * @param list<float> $beta
     *
     * @return array{float, list<float>, list<list<float>>} penalized log-likelihood, gradient, lower triangle of the information
     */
    public function evaluate(array $beta): array
    {
        $width = \count($beta);
        $value = 0.0;
        $gradient = array_fill(0, $width, 0.0);
        $information = [];
        for ($i = 0; $i < $width; ++$i) {
            $information[] = array_fill(0, $i + 1, 0.0);
        }
        foreach ($this->x->blocks() as $b => $columns) {
            [$blockValue, $residual, $curvature] = self::scores($columns, $this->y[$b], $this->weights[$b], $beta);
            $value += $blockValue;
            self::accumulate($columns, $residual, $curvature, $gradient, $information);
        }
        if ($this->ridge > 0.0) {
            $value -= $this->penalty($beta);
            for ($i = 1; $i < $width; ++$i) {
                $gradient[$i] -= $this->ridge * $beta[$i];
                $information[$i][$i] += $this->ridge;
            }
        }

        /** @var list<float> $gradient */
        /** @var list<list<float>> $information */
        return [$value, $gradient, $information];
    }

    public function slope(array $beta): array
    {
        $value = -$this->penalty($beta);
        $gradient = [];
        foreach ($beta as $i => $b) {
            $gradient[] = $i > 0 ? -$this->ridge * $b : 0.0;
        }
        foreach ($this->x->blocks() as $b => $columns) {
            [$blockValue, $residual] = self::scores($columns, $this->y[$b], $this->weights[$b], $beta);
            $value += $blockValue;
            foreach ($columns as $j => $column) {
                $sum = 0.0;
                foreach ($column as $r => $v) {
                    $sum += $v * $residual[$r];
                }
                $gradient[$j] += $sum;
            }
        }

        return [$value, array_values($gradient)];
    }

    /**
     * Kernel: for one block, the log-likelihood, the weighted residuals w (y - p) and the weights w p (1 - p).
     *
     * @param list<list<float>> $columns
     * @param list<float>       $y
     * @param list<float>       $w
     * @param list<float>       $beta
     *
     * @return array{float, list<float>, list<float>}
     */
    private static function scores(array $columns, array $y, array $w, array $beta): array
    {
        $rows = \count($y);
        $eta = array_fill(0, $rows, 0.0);
        foreach ($columns as $j => $column) {
            $bj = $beta[$j];
            if (0.0 !== $bj) {
                foreach ($column as $r => $v) {
                    $eta[$r] += $bj * $v;
                }
            }
        }
        $value = 0.0;
        $residual = $curvature = [];
        foreach ($eta as $r => $e) {
            // Written for either sign so that neither exp overflows nor a probability near 1 loses its digits.
            if ($e >= 0.0) {
                $t = exp(-$e);
                $q = $t / (1.0 + $t);
                $p = 1.0 / (1.0 + $t);
                $logP = -log1p($t);
                $logQ = $logP - $e;
            } else {
                $t = exp($e);
                $p = $t / (1.0 + $t);
                $q = 1.0 / (1.0 + $t);
                $logQ = -log1p($t);
                $logP = $logQ + $e;
            }
            $weight = $w[$r];
            $one = $y[$r];
            $value += $weight * ($one * $logP + (1.0 - $one) * $logQ);
            $residual[] = $weight * ($one * $q - (1.0 - $one) * $p);
            $curvature[] = $weight * $p * $q;
        }

        return [$value, $residual, $curvature];
    }

    /**
     * Kernel: adds one block's X'r and lower triangle of X'WX; every column is weighted once.
     *
     * @param list<list<float>>       $columns
     * @param list<float>             $residual
     * @param list<float>             $curvature
     * @param array<int, float>       $gradient
     * @param list<array<int, float>> $information
     */
    private static function accumulate(array $columns, array $residual, array $curvature, array &$gradient, array &$information): void
    {
        $rows = \count($residual);
        $weighted = [];
        foreach ($columns as $i => $xi) {
            $w = [];
            $sum = 0.0;
            for ($r = 0; $r < $rows; ++$r) {
                $v = $xi[$r];
                $sum += $v * $residual[$r];
                $w[] = $v * $curvature[$r];
            }
            $gradient[$i] += $sum;
            $weighted[] = $w;
        }
        foreach (Curvature::triangle($weighted, $columns) as $i => $row) {
            foreach ($row as $j => $product) {
                $information[$i][$j] += $product;
            }
        }
    }
}
