<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\Curvature;
use Dokimos\Core\Math\Lbfgs;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Progress;

/** Newton's method on the coefficients of all classes but the first, class after class in one list. */
final class MultinomialFit implements Smooth
{
    /** A standardized coefficient beyond this follows a likelihood that has no highest point. */
    public const RUNAWAY = 30.0;
    private const STEPS = 60;

    /** @var list<float> */
    public array $beta = [];
    /** @var list<list<float>> lower triangle */
    public array $information = [];
    public float $logLikelihood = -\INF;
    public bool $converged = false;

    /**
     * @param list<list<int>>   $y       the place of the class per block and row
     * @param list<list<float>> $weights
     */
    public function __construct(private readonly Matrix $x, private readonly array $y, private readonly array $weights, private readonly int $classes, private readonly float $ridge = 0.0)
    {
    }

    /** @throws NotPositiveDefinite */
    public function run(?Progress $progress = null): void
    {
        $beta = array_values(array_fill(0, \count($this->x->names) * ($this->classes - 1), 0.0));
        [$value, $gradient, $information] = $this->evaluate($beta);
        $this->converged = false;
        $last = \INF;
        $slow = 0;
        for ($step = 1; $step <= self::STEPS; ++$step) {
            $progress?->report(min(0.95, $step / 10));
            $direction = Cholesky::of($information)->solve($gradient);
            $decrement = 0.0;
            foreach ($direction as $i => $d) {
                $decrement += $d * $gradient[$i];
            }
            $better = false;
            for ($size = 1.0; $size > 1e-9; $size *= 0.5) {
                $candidate = [];
                foreach ($beta as $i => $b) {
                    $candidate[] = $b + $size * $direction[$i];
                }
                $new = $this->evaluate($candidate);
                if ($new[0] >= $value - 1e-13 * abs($value)) {
                    $better = true;
                    break;
                }
            }
            if (!$better) {
                break;
            }
            $beta = $candidate;
            [$value, $gradient, $information] = $new;
            // Near a highest point each step squares what is left to gain; steps that go on gaining alike follow one that is not there.
            $slow = $decrement < 0.1 && $decrement > 0.05 * $last ? $slow + 1 : 0;
            if (0.0 === $this->ridge && ($slow > 3 || max([0.0, ...array_map(abs(...), $beta)]) > self::RUNAWAY)) {
                break;
            }
            $last = $decrement;
            if ($decrement <= 1e-18 * (1 + abs($value)) || $decrement < 1e-16) {
                $this->converged = true;
                break;
            }
        }
        $this->beta = $beta;
        $this->information = $information;
        $this->logLikelihood = $value + $this->penalty($beta);
    }

    /** By the slope alone, where curvature would be too large a table. */
    public function climb(?Progress $progress = null): void
    {
        $found = Lbfgs::highest(array_values(array_fill(0, \count($this->x->names) * ($this->classes - 1), 0.0)), $this->slope(...), $progress);
        $this->beta = $found['place'];
        $this->converged = $found['converged'];
        $this->logLikelihood = $found['value'] + $this->penalty($found['place']);
    }

    public function width(): int
    {
        return \count($this->x->names);
    }

    /** The constants stay free, but for a trace that holds those of classes that no row has. */
    private function priceOf(int $place): float
    {
        return 0 === $place % \count($this->x->names) ? min(1e-6, $this->ridge) : $this->ridge;
    }

    public function penalty(array $beta): float
    {
        $sum = 0.0;
        foreach ($beta as $i => $b) {
            $sum += 0.5 * $this->priceOf($i) * $b * $b;
        }

        return $sum;
    }

    public function slope(array $beta): array
    {
        $width = \count($this->x->names);
        $value = -$this->penalty($beta);
        $gradient = [];
        foreach ($beta as $i => $b) {
            $gradient[] = -$this->priceOf($i) * $b;
        }
        foreach ($this->x->blocks() as $b => $columns) {
            [$own, , $residual] = $this->shares($columns, $this->y[$b], $this->weights[$b], $beta);
            $value += $own;
            foreach ($residual as $k => $left) {
                foreach ($columns as $j => $column) {
                    $sum = 0.0;
                    foreach ($column as $r => $v) {
                        $sum += $v * $left[$r];
                    }
                    $gradient[$k * $width + $j] += $sum;
                }
            }
        }

        return [$value, array_values($gradient)];
    }

    public function evaluate(array $beta): array
    {
        $width = \count($this->x->names);
        $others = $this->classes - 1;
        $all = $width * $others;
        $value = 0.0;
        $gradient = array_fill(0, $all, 0.0);
        $information = [];
        for ($i = 0; $i < $all; ++$i) {
            $information[] = array_fill(0, $i + 1, 0.0);
        }
        foreach ($this->x->blocks() as $b => $columns) {
            [$own, $p, $residual] = $this->shares($columns, $this->y[$b], $this->weights[$b], $beta);
            $value += $own;
            $w = $this->weights[$b];
            for ($k = 0; $k < $others; ++$k) {
                foreach ($columns as $j => $column) {
                    $sum = 0.0;
                    foreach ($column as $r => $v) {
                        $sum += $v * $residual[$k][$r];
                    }
                    $gradient[$k * $width + $j] += $sum;
                }
                for ($l = 0; $l <= $k; ++$l) {
                    $curve = [];
                    foreach ($w as $r => $weight) {
                        $curve[] = $weight * $p[$k][$r] * (($k === $l ? 1.0 : 0.0) - $p[$l][$r]);
                    }
                    $weighted = [];
                    foreach ($columns as $column) {
                        $own = [];
                        foreach ($column as $r => $v) {
                            $own[] = $v * $curve[$r];
                        }
                        $weighted[] = $own;
                    }
                    foreach (Curvature::triangle($weighted, $columns) as $i => $products) {
                        foreach ($products as $j => $product) {
                            $information[$k * $width + $i][$l * $width + $j] += $product;
                            if ($k !== $l && $i !== $j) {
                                $information[$k * $width + $j][$l * $width + $i] += $product;
                            }
                        }
                    }
                }
            }
        }
        $value -= $this->penalty($beta);
        foreach ($this->ridge > 0.0 ? $beta : [] as $i => $coefficient) {
            $gradient[$i] -= $this->priceOf($i) * $coefficient;
            $information[$i][$i] += $this->priceOf($i);
        }

        return [$value, array_values($gradient), array_values(array_map(array_values(...), $information))];
    }

    /**
     * @param list<list<float>> $columns
     * @param list<int>         $y
     * @param list<float>       $w
     * @param list<float>       $beta
     *
     * @return array{float, list<list<float>>, list<list<float>>} log-likelihood, chance of each class but the first per row, and w (y - p)
     */
    private function shares(array $columns, array $y, array $w, array $beta): array
    {
        $width = \count($columns);
        $others = $this->classes - 1;
        $eta = [];
        for ($k = 0; $k < $others; ++$k) {
            $sum = array_fill(0, \count($y), 0.0);
            foreach ($columns as $j => $column) {
                $b = $beta[$k * $width + $j];
                if (0.0 !== $b) {
                    foreach ($column as $r => $v) {
                        $sum[$r] += $b * $v;
                    }
                }
            }
            $eta[] = $sum;
        }
        $value = 0.0;
        $p = $residual = array_fill(0, $others, []);
        foreach ($y as $r => $class) {
            $most = 0.0;
            for ($k = 0; $k < $others; ++$k) {
                $most = max($most, $eta[$k][$r]);
            }
            $all = exp(-$most);
            $raised = [];
            for ($k = 0; $k < $others; ++$k) {
                $all += $raised[] = exp($eta[$k][$r] - $most);
            }
            $value += $w[$r] * (($class > 0 ? $eta[$class - 1][$r] : 0.0) - $most - log($all));
            foreach ($raised as $k => $e) {
                $p[$k][] = $share = $e / $all;
                $residual[$k][] = $w[$r] * (($class === $k + 1 ? 1.0 : 0.0) - $share);
            }
        }

        return [$value, $p, $residual];
    }
}
