<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Linear;

use Dokimos\Core\Math\Distribution\FisherF;
use Dokimos\Core\Math\Qr;

/** What a least-squares fit says about itself; formulas: docs/methods/linear-regression.md. */
final readonly class LinearFigures
{
    /** @param array<array-key, float> $sumsOfSquares of each term kept around its mean, the constant's left out */
    private function __construct(public int $rowsTotal, public int $rowsUsed, public int $parameters, public float $rss, public float $tss, public float $logLikelihood, public array $sumsOfSquares)
    {
    }

    /**
     * @param \Closure(int): list<float> $column  of the matrix, times the root of the weight
     * @param list<float>                $y       times the root of the weight
     * @param list<float>                $roots   of the weights
     * @param ?list<float>               $weights
     */
    public static function of(\Closure $column, Qr $qr, array $y, array $roots, ?array $weights, int $rowsTotal, int $rowsUsed): self
    {
        $around = static function (array $x) use ($roots): float {
            /** @var list<float> $x */
            $weight = $sum = 0.0;
            foreach ($roots as $i => $root) {
                $weight += $root * $root;
                $sum += $root * $x[$i];
            }
            $mean = $sum / $weight;
            $square = 0.0;
            foreach ($roots as $i => $root) {
                $d = $x[$i] - $root * $mean;
                $square += $d * $d;
            }

            return $square;
        };
        $squares = [];
        foreach ($qr->kept as $place => $j) {
            if ($j > 0) {
                $squares[$place] = $around($column($j));
            }
        }
        $logs = 0.0;
        foreach (null === $weights ? [] : $roots as $root) {
            $logs += log($root);
        }
        $n = $rowsUsed;
        $likelihood = $qr->rss > 0.0 ? $logs - $n / 2 * (log(2 * \M_PI) + log($qr->rss / $n) + 1) : \PHP_FLOAT_MAX;

        return new self($rowsTotal, $n, \count($qr->kept), $qr->rss, $around($y), $likelihood, $squares);
    }

    /**
     * Of a fit whose coefficients are held back: no tests, only what it leaves.
     *
     * @param list<list<float>> $y       per block and row
     * @param list<list<float>> $weights
     */
    public static function plain(array $y, array $weights, float $rss, int $parameters, int $rowsTotal): self
    {
        $n = 0;
        $weight = $mean = $tss = $logs = 0.0;
        foreach ($y as $b => $values) {
            foreach ($values as $r => $v) {
                $w = $weights[$b][$r];
                ++$n;
                $weight += $w;
                $logs += 0.5 * log($w);
                $step = $v - $mean;
                $mean += $step * $w / $weight;
                $tss += $w * $step * ($v - $mean);
            }
        }
        $likelihood = $rss > 0.0 ? $logs - $n / 2 * (log(2 * \M_PI) + log($rss / $n) + 1) : \PHP_FLOAT_MAX;

        return new self($rowsTotal, $n, $parameters, $rss, $tss, $likelihood, []);
    }

    public function freedom(): int
    {
        return $this->rowsUsed - $this->parameters;
    }

    /** Residual standard error; null when the terms leave no freedom. */
    public function sigma(): ?float
    {
        return $this->freedom() > 0 ? sqrt($this->rss / $this->freedom()) : null;
    }

    public function r2(): ?float
    {
        return $this->tss > 0.0 ? 1 - $this->rss / $this->tss : null;
    }

    /** @return array<string, int|float|null> named as in the reference */
    public function toArray(): array
    {
        $n = $this->rowsUsed;
        $p = $this->parameters;
        $sigma = $this->sigma();
        $f = null !== $sigma && $sigma > 0.0 && $p > 1 ? ($this->tss - $this->rss) / ($p - 1) / ($sigma * $sigma) : null;
        $r2 = $this->r2();

        return [
            'rows_total' => $this->rowsTotal,
            'rows_used' => $n,
            'rows_dropped' => $this->rowsTotal - $n,
            'parameters' => $p,
            'df_residual' => $this->freedom(),
            'rss' => $this->rss,
            'tss' => $this->tss,
            'r2' => $r2,
            'adj_r2' => null === $r2 || $n <= $p ? null : 1 - (1 - $r2) * ($n - 1) / ($n - $p),
            'residual_se' => $sigma,
            'f' => $f,
            'f_df1' => $p - 1,
            'f_df2' => $n - $p,
            'f_p' => null === $f ? null : (new FisherF($p - 1, $n - $p))->upper(max(0.0, $f)),
            'log_likelihood' => $this->logLikelihood,
            'aic' => -2 * $this->logLikelihood + 2 * ($p + 1),
            'bic' => -2 * $this->logLikelihood + log($n) * ($p + 1),
            'aic_without_sigma' => -2 * $this->logLikelihood + 2 * $p,
        ];
    }

    /** @return array<string, mixed> as fromStored() reads it */
    public function stored(): array
    {
        return ['rows_total' => $this->rowsTotal, 'rows_used' => $this->rowsUsed, 'parameters' => $this->parameters, 'rss' => $this->rss, 'tss' => $this->tss, 'log_likelihood' => $this->logLikelihood, 'squares' => $this->sumsOfSquares];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{rows_total: int, rows_used: int, parameters: int, rss: float|int, tss: float|int, log_likelihood: float|int, squares: array<array-key, float|int>} $data */
        return new self($data['rows_total'], $data['rows_used'], $data['parameters'], (float) $data['rss'], (float) $data['tss'], (float) $data['log_likelihood'], array_map(floatval(...), $data['squares']));
    }
}
