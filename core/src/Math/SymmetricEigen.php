<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

/**
 * Eigenvalues and eigenvectors of a symmetric matrix by cyclic Jacobi rotations (Golub and Van Loan, Matrix Computations, 8.5), which
 * finds small eigenvalues as exactly as large ones.
 */
final readonly class SymmetricEigen
{
    /**
     * @param list<float>       $values  descending
     * @param list<list<float>> $vectors of length 1, in the order of the values; the entry largest in absolute value is positive
     */
    private function __construct(public array $values, public array $vectors)
    {
    }

    /** @param list<list<float>> $a symmetric */
    public static function of(array $a): self
    {
        $n = \count($a);
        $v = [];
        for ($i = 0; $i < $n; ++$i) {
            $v[$i] = array_fill(0, $n, 0.0);
            $v[$i][$i] = 1.0;
        }
        for ($sweep = 0; $sweep < 100; ++$sweep) {
            $rotated = false;
            for ($p = 0; $p < $n - 1; ++$p) {
                for ($q = $p + 1; $q < $n; ++$q) {
                    $apq = $a[$p][$q];
                    if (abs($apq) <= 1e-16 * sqrt(abs($a[$p][$p] * $a[$q][$q])) || 0.0 === $apq) {
                        continue;
                    }
                    $rotated = true;
                    $theta = ($a[$q][$q] - $a[$p][$p]) / (2.0 * $apq);
                    $t = ($theta >= 0.0 ? 1.0 : -1.0) / (abs($theta) + sqrt($theta * $theta + 1.0));
                    $c = 1.0 / sqrt($t * $t + 1.0);
                    $s = $t * $c;
                    for ($k = 0; $k < $n; ++$k) {
                        [$x, $y] = [$a[$k][$p], $a[$k][$q]];
                        $a[$k][$p] = $c * $x - $s * $y;
                        $a[$k][$q] = $s * $x + $c * $y;
                    }
                    for ($k = 0; $k < $n; ++$k) {
                        [$x, $y] = [$a[$p][$k], $a[$q][$k]];
                        $a[$p][$k] = $c * $x - $s * $y;
                        $a[$q][$k] = $s * $x + $c * $y;
                        [$x, $y] = [$v[$k][$p], $v[$k][$q]];
                        $v[$k][$p] = $c * $x - $s * $y;
                        $v[$k][$q] = $s * $x + $c * $y;
                    }
                    $a[$p][$q] = $a[$q][$p] = 0.0;
                }
            }
            if (!$rotated) {
                break;
            }
        }
        $values = [];
        for ($i = 0; $i < $n; ++$i) {
            $values[$i] = $a[$i][$i];
        }
        arsort($values, \SORT_NUMERIC);
        $vectors = [];
        foreach (array_keys($values) as $i) {
            $vector = array_column($v, $i);
            $largest = 0;
            foreach ($vector as $k => $x) {
                // Equal entries: the first decides, whatever the last bits say.
                $largest = abs($x) > abs($vector[$largest]) * (1.0 + 1e-9) ? $k : $largest;
            }
            $vectors[] = $vector[$largest] < 0.0 ? array_map(static fn (float $x) => -$x, $vector) : $vector;
        }

        return new self(array_values($values), $vectors);
    }
}
