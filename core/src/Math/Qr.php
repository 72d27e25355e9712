<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

/**
 * Least squares by Householder reflections, column after column (Golub and Van Loan 2013, chapter 5). A column that the ones before it
 * already say, up to rounding, is left out and named.
 */
final readonly class Qr
{
    private const DEPENDENT = 1e-9;

    /**
     * @param list<list<float>> $r         upper triangle: for each column kept its entries down to the diagonal
     * @param list<float>       $solution  one per column kept
     * @param list<int>         $kept      places of the columns kept
     * @param list<int>         $dependent places of those left out
     * @param float             $rss       sum of squares that the columns leave
     */
    private function __construct(public array $r, public array $solution, public array $kept, public array $dependent, public float $rss)
    {
    }

    /**
     * @param list<list<float>> $columns each of the same length
     * @param list<float>       $y
     */
    public static function solve(array $columns, array $y): self
    {
        $n = \count($y);
        $r = $kept = $dependent = $reflections = [];
        foreach ($columns as $j => $x) {
            $size = self::norm($x, 0);
            // Scaled to length 1: very large or small numbers must not leave what a double holds.
            $scale = $size > 0.0 && is_finite($size) ? $size : 1.0;
            foreach ($x as $i => $v) {
                $x[$i] = $v / $scale;
            }
            foreach ($reflections as $k => $v) {
                $x = self::reflect($x, $v, $k);
            }
            $k = \count($kept);
            $left = $k < $n ? self::norm($x, $k) : 0.0;
            if (!($left > self::DEPENDENT) || $size <= 0.0) {
                $dependent[] = $j;
                continue;
            }
            $alpha = $x[$k] > 0.0 ? -$left : $left;
            $v = \array_slice($x, $k);
            $v[0] -= $alpha;
            $length = self::norm($v, 0);
            foreach ($v as $i => $c) {
                $v[$i] = $c / $length;
            }
            $column = [];
            for ($i = 0; $i < $k; ++$i) {
                $column[] = $x[$i] * $scale;
            }
            $column[] = $alpha * $scale;
            $r[] = $column;
            $kept[] = $j;
            $reflections[] = $v;
        }
        foreach ($reflections as $k => $v) {
            $y = self::reflect($y, $v, $k);
        }
        $p = \count($kept);
        $solution = array_fill(0, $p, 0.0);
        for ($j = $p - 1; $j >= 0; --$j) {
            $sum = $y[$j];
            for ($k = $j + 1; $k < $p; ++$k) {
                $sum -= $r[$k][$j] * $solution[$k];
            }
            $solution[$j] = $sum / $r[$j][$j];
        }
        $rss = 0.0;
        for ($i = $p; $i < $n; ++$i) {
            $rss += $y[$i] * $y[$i];
        }

        return new self($r, array_values($solution), $kept, $dependent, $rss);
    }

    /**
     * The same least squares from rows that come a part at a time: each part is brought to a triangle together with the triangle of those
     * before it, and only the last triangle is solved (Golub and Van Loan 2013, section 5.1.10). Lengths of columns, and what each adds to
     * those before it, are those of all rows.
     *
     * @param iterable<list<list<float>>> $parts columns and, last, y; of some rows each
     * @param int                         $width columns without y
     */
    public static function inParts(iterable $parts, int $width): self
    {
        $triangle = array_fill(0, $width + 1, []);
        foreach ($parts as $columns) {
            foreach ($columns as $j => $column) {
                $triangle[$j] = array_merge($triangle[$j], $column);
            }
            $triangle = self::triangle(array_values($triangle));
        }
        $y = array_pop($triangle);

        return self::solve(array_values($triangle), $y ?? []);
    }

    /**
     * Brings columns to a triangle by reflections; none is left out.
     *
     * @param list<list<float>> $columns
     *
     * @return list<list<float>> of as many rows as there are columns, or as they had
     */
    private static function triangle(array $columns): array
    {
        $height = min(\count($columns), \count($columns[0]));
        $reflections = [];
        $out = [];
        foreach ($columns as $j => $x) {
            foreach ($reflections as $k => $v) {
                $x = self::reflect($x, $v, $k);
            }
            $left = $j < \count($x) ? self::norm($x, $j) : 0.0;
            if ($left > 0.0 && is_finite($left) && $j < $height) {
                $alpha = $x[$j] > 0.0 ? -$left : $left;
                $v = \array_slice($x, $j);
                $v[0] -= $alpha;
                $length = self::norm($v, 0);
                foreach ($v as $i => $c) {
                    $v[$i] = $c / $length;
                }
                $reflections[$j] = $v;
                $x = [...\array_slice($x, 0, $j), $alpha, ...array_fill(0, \count($x) - $j - 1, 0.0)];
            }
            $out[] = \array_slice($x, 0, $height);
        }

        return $out;
    }

    /** @param array<int, float> $x */
    private static function norm(array $x, int $from): float
    {
        $largest = 0.0;
        for ($i = $from, $n = \count($x); $i < $n; ++$i) {
            $a = abs($x[$i]);
            if ($a > $largest) {
                $largest = $a;
            }
        }
        if (0.0 === $largest || !is_finite($largest)) {
            return $largest;
        }
        $sum = 0.0;
        for ($i = $from; $i < $n; ++$i) {
            $v = $x[$i] / $largest;
            $sum += $v * $v;
        }

        return $largest * sqrt($sum);
    }

    /**
     * x - 2 v (v'x), from place $k on. Hot loop.
     *
     * @param array<int, float> $x
     * @param list<float>       $v of length 1
     *
     * @return list<float>
     */
    private static function reflect(array $x, array $v, int $k): array
    {
        $dot = 0.0;
        foreach ($v as $i => $c) {
            $dot += $c * $x[$k + $i];
        }
        $dot *= 2.0;
        foreach ($v as $i => $c) {
            $x[$k + $i] -= $dot * $c;
        }

        return array_values($x);
    }

    /**
     * The inverse of R: (X'X)^-1 = R^-1 R^-T.
     *
     * @return list<list<float>> rows
     */
    public function inverse(): array
    {
        $p = \count($this->r);
        $inverse = array_fill(0, $p, array_fill(0, $p, 0.0));
        for ($j = 0; $j < $p; ++$j) {
            $inverse[$j][$j] = 1.0 / $this->r[$j][$j];
            for ($i = $j - 1; $i >= 0; --$i) {
                $sum = 0.0;
                for ($k = $i + 1; $k <= $j; ++$k) {
                    $sum -= $this->r[$k][$i] * $inverse[$k][$j];
                }
                $inverse[$i][$j] = $sum / $this->r[$i][$i];
            }
        }

        return array_values(array_map(array_values(...), $inverse));
    }
}
