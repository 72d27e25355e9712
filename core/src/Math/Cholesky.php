<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

/** The factor L of a symmetric positive definite matrix A = L Lᵀ. */
final readonly class Cholesky
{
    /** @param list<list<float>> $factor lower triangle, row by row */
    private function __construct(private array $factor)
    {
    }

    /**
     * @param list<list<float>> $matrix lower triangle (more is ignored)
     *
     * @throws NotPositiveDefinite pivot … of the matrix is not positive
     */
    public static function of(array $matrix): self
    {
        $l = [];
        foreach ($matrix as $i => $row) {
            $li = [];
            for ($j = 0; $j < $i; ++$j) {
                $sum = $row[$j];
                $lj = $l[$j];
                for ($k = 0; $k < $j; ++$k) {
                    $sum -= $li[$k] * $lj[$k];
                }
                $li[$j] = $sum / $lj[$j];
            }
            $sum = $row[$i];
            foreach ($li as $v) {
                $sum -= $v * $v;
            }
            if (!($sum > 0.0) || !is_finite($sum)) {
                throw new NotPositiveDefinite(\sprintf('Pivot %d of the matrix is not positive.', $i + 1));
            }
            $li[$i] = sqrt($sum);
            $l[$i] = $li;
        }

        /** @var list<list<float>> $l */
        return new self($l);
    }

    /**
     * The places whose column is, within the tolerance, a combination of the columns before it.
     *
     * @param list<list<float>> $matrix lower triangle of a cross-product matrix
     *
     * @return list<int>
     */
    public static function dependent(array $matrix, float $tolerance = 1e-10): array
    {
        $l = [];
        $dependent = [];
        foreach ($matrix as $i => $row) {
            $li = [];
            for ($j = 0; $j < $i; ++$j) {
                if (!isset($l[$j])) {
                    $li[$j] = 0.0;
                    continue;
                }
                $sum = $row[$j];
                for ($k = 0; $k < $j; ++$k) {
                    $sum -= $li[$k] * $l[$j][$k];
                }
                $li[$j] = $sum / $l[$j][$j];
            }
            $sum = $row[$i];
            foreach ($li as $v) {
                $sum -= $v * $v;
            }
            if ($sum <= $tolerance * $row[$i] || $row[$i] <= 0.0) {
                $dependent[] = $i;
                continue;
            }
            $li[$i] = sqrt($sum);
            $l[$i] = $li;
        }

        return $dependent;
    }

    /**
     * @param list<float> $b
     *
     * @return list<float> x with A x = b
     */
    public function solve(array $b): array
    {
        $l = $this->factor;
        $n = \count($l);
        $y = [];
        for ($i = 0; $i < $n; ++$i) {
            $sum = $b[$i];
            for ($k = 0; $k < $i; ++$k) {
                $sum -= $l[$i][$k] * $y[$k];
            }
            $y[$i] = $sum / $l[$i][$i];
        }
        for ($i = $n - 1; $i >= 0; --$i) {
            $sum = $y[$i];
            for ($k = $i + 1; $k < $n; ++$k) {
                $sum -= $l[$k][$i] * $y[$k];
            }
            $y[$i] = $sum / $l[$i][$i];
        }

        return array_values($y);
    }

    /** @return list<list<float>> the whole inverse of A */
    public function inverse(): array
    {
        $n = \count($this->factor);
        $inverse = [];
        for ($i = 0; $i < $n; ++$i) {
            $unit = array_fill(0, $n, 0.0);
            $unit[$i] = 1.0;
            $inverse[] = $this->solve(array_values($unit));
        }

        return $inverse;
    }
}
