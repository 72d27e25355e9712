<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Linear;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Learn\Penalty;

/**
 * Least squares with a price on the size of the coefficients, by coordinate descent with soft thresholds on cross products, from the
 * largest price down, each solution where the next begins (Friedman, Hastie and Tibshirani 2010).
 *
 * J(b) = ½ Σ w (y − xb)² + λ (α Σ|b| + ½ (1 − α) Σ b²) on standardized columns, the constant free.
 */
final class HeldBack
{
    public const PARTS = 5;
    private const PRICES = 60;
    private const LEAST = 1e-4;
    private const CYCLES = 10_000;

    /** @var list<list<list<float>>> by part: X'WX, with X'Wy as the last row and y'Wy in the corner */
    private array $parts = [];
    /** @var list<float> weight by part */
    private array $weight = [];

    /**
     * @param Matrix            $x       standardized
     * @param list<list<float>> $y       per block and row
     * @param list<list<float>> $weights per block and row
     */
    public function __construct(Matrix $x, array $y, array $weights)
    {
        $width = \count($x->names);
        for ($part = 0; $part < self::PARTS; ++$part) {
            $products = array_fill(0, $width + 1, array_fill(0, $width + 1, 0.0));
            $sum = 0.0;
            foreach ($x->blocks() as $b => $columns) {
                $columns[] = $y[$b];
                $own = [];
                // Every fifth row, wherever a block begins.
                $from = (self::PARTS + $part - $b * Matrix::BLOCK % self::PARTS) % self::PARTS;
                foreach ($columns as $column) {
                    $values = [];
                    for ($r = $from, $n = \count($column); $r < $n; $r += self::PARTS) {
                        $values[] = $column[$r];
                    }
                    $own[] = $values;
                }
                $w = [];
                for ($r = $from, $n = \count($weights[$b]); $r < $n; $r += self::PARTS) {
                    $w[] = $weights[$b][$r];
                    $sum += $weights[$b][$r];
                }
                foreach ($own as $i => $column) {
                    $weighted = [];
                    foreach ($column as $r => $v) {
                        $weighted[] = $v * $w[$r];
                    }
                    for ($j = 0; $j <= $i; ++$j) {
                        $dot = 0.0;
                        $other = $own[$j];
                        foreach ($weighted as $r => $v) {
                            $dot += $v * $other[$r];
                        }
                        $products[$i][$j] += $dot;
                    }
                }
            }
            for ($i = 0; $i <= $width; ++$i) {
                for ($j = 0; $j < $i; ++$j) {
                    $products[$j][$i] = $products[$i][$j];
                }
            }
            $this->parts[] = array_values(array_map(array_values(...), $products));
            $this->weight[] = $sum;
        }
    }

    /**
     * @return array{beta: list<float>, rss: float, objective: float} coefficients, their sum of squared residuals, and what was minimized
     */
    public function at(Penalty $penalty): array
    {
        $all = self::added($this->parts);
        $beta = self::descend($all, $penalty->price * $penalty->mix, $penalty->price * (1 - $penalty->mix), []);
        $rss = self::left($all, $beta);
        $size = 0.0;
        foreach ($beta as $j => $b) {
            $size += $j > 0 ? $penalty->mix * abs($b) + 0.5 * (1 - $penalty->mix) * $b * $b : 0.0;
        }

        return ['beta' => $beta, 'rss' => $rss, 'objective' => 0.5 * $rss + $penalty->price * $size];
    }

    /**
     * Prices from the least that puts out every term downward, each judged on the fifths of the rows that did not fit it.
     *
     * @return list<array{price: float, terms: int, error: float, se: float}> mean squared error with its standard error over the parts
     */
    public function path(float $mix): array
    {
        $all = self::added($this->parts);
        $y = \count($all) - 1;
        $weight = array_sum($this->weight);
        $most = 1e-12;
        for ($j = 1; $j < $y; ++$j) {
            $most = max($most, abs($all[$y][$j] - $all[$j][0] * $all[$y][0] / $weight));
        }
        $most /= max(0.01, $mix);
        $rest = [];
        foreach (array_keys($this->parts) as $part) {
            $rest[] = self::added(array_values(array_diff_key($this->parts, [$part => true])));
        }
        $whole = [];
        $beta = array_fill(0, self::PARTS, []);
        $out = [];
        for ($k = 0; $k < self::PRICES; ++$k) {
            $price = $most * self::LEAST ** ($k / (self::PRICES - 1));
            $whole = self::descend($all, $price * $mix, $price * (1 - $mix), $whole);
            $errors = [];
            foreach ($rest as $part => $products) {
                if ($this->weight[$part] <= 0.0) {
                    continue;
                }
                $share = ($weight - $this->weight[$part]) / $weight;
                $beta[$part] = self::descend($products, $share * $price * $mix, $share * $price * (1 - $mix), $beta[$part]);
                $errors[] = self::left($this->parts[$part], $beta[$part]) / $this->weight[$part];
            }
            $n = \count($errors);
            $mean = array_sum($errors) / max(1, $n);
            $square = array_sum(array_map(static fn (float $e): float => ($e - $mean) ** 2, $errors));
            $out[] = ['price' => $price, 'terms' => \count(array_filter(\array_slice($whole, 1), static fn (float $b) => 0.0 !== $b)), 'error' => $mean, 'se' => $n > 1 ? sqrt($square / ($n - 1) / $n) : 0.0];
        }

        return $out;
    }

    /**
     * @param list<list<list<float>>> $parts
     *
     * @return list<list<float>>
     */
    private static function added(array $parts): array
    {
        $sum = array_shift($parts) ?? [];
        foreach ($parts as $part) {
            foreach ($part as $i => $row) {
                foreach ($row as $j => $v) {
                    $sum[$i][$j] += $v;
                }
            }
        }

        return array_values(array_map(array_values(...), $sum));
    }

    /**
     * Sum of squares that coefficients leave: y'y − 2 b'X'y + b'X'Xb.
     *
     * @param list<list<float>> $products
     * @param list<float>       $beta
     */
    private static function left(array $products, array $beta): float
    {
        $y = \count($products) - 1;
        $rss = $products[$y][$y];
        foreach ($beta as $i => $b) {
            $dot = -2 * $products[$y][$i];
            foreach ($beta as $j => $c) {
                $dot += $products[$i][$j] * $c;
            }
            $rss += $b * $dot;
        }

        return max(0.0, $rss);
    }

    /**
     * @param list<list<float>> $products
     * @param list<float>       $start    [] = nothing
     *
     * @return list<float>
     */
    private static function descend(array $products, float $sharp, float $round, array $start): array
    {
        $p = \count($products) - 1;
        $b = [] === $start ? array_fill(0, $p, 0.0) : $start;
        // X'W(y − Xb), kept up to date as coordinates move.
        $slope = \array_slice($products[$p], 0, $p);
        foreach ($b as $j => $v) {
            if (0.0 !== $v) {
                foreach ($slope as $i => $s) {
                    $slope[$i] = $s - $products[$j][$i] * $v;
                }
            }
        }
        for ($cycle = 0; $cycle < self::CYCLES; ++$cycle) {
            $largest = 0.0;
            for ($j = 0; $j < $p; ++$j) {
                $curve = $products[$j][$j];
                if ($curve <= 0.0) {
                    continue;
                }
                $pull = $slope[$j] + $curve * $b[$j];
                $new = 0 === $j ? $pull / $curve : ($pull > $sharp ? ($pull - $sharp) / ($curve + $round) : ($pull < -$sharp ? ($pull + $sharp) / ($curve + $round) : 0.0));
                $change = $new - $b[$j];
                if (0.0 !== $change) {
                    $b[$j] = $new;
                    $row = $products[$j];
                    for ($k = 0; $k < $p; ++$k) {
                        $slope[$k] -= $row[$k] * $change;
                    }
                    $largest = max($largest, abs($change) / (1 + abs($new)));
                }
            }
            if ($largest < 1e-12) {
                break;
            }
        }

        return array_values($b);
    }
}
