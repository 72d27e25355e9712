<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Learn\Tree\Packing;

/**
 * What the loss wants of each row's sum: its slope and curvature, packed. Of two classes and of several the negative logarithm of the
 * chance of what came, of a number half the squared error.
 */
final readonly class Slopes
{
    public const NUMBER = 0;
    public const TWO = 1;
    public const MORE = 2;

    /**
     * @param list<float>  $y 0 or 1, the place of the class, or a number
     * @param ?list<float> $w
     */
    public function __construct(private int $kind, private array $y, private ?array $w, private Packing $packing)
    {
    }

    /**
     * Hot loop.
     *
     * @param list<list<float>> $sums per class of several, else one
     *
     * @return array{list<int>, float, float} as Packing::pack() gives it, uphill
     */
    public function of(array $sums, int $class): array
    {
        if (self::TWO === $this->kind && null === $this->w) {
            return $this->packing->ofOdds($this->y, $sums[0]);
        }
        $g = $h = [];
        if (self::NUMBER === $this->kind) {
            foreach ($sums[0] as $i => $sum) {
                $w = $this->w[$i] ?? 1.0;
                $g[] = $w * ($this->y[$i] - $sum);
                $h[] = $w;
            }
        } elseif (self::TWO === $this->kind) {
            foreach ($sums[0] as $i => $sum) {
                $w = $this->w[$i] ?? 1.0;
                $p = 1.0 / (1.0 + exp(-$sum));
                $g[] = $w * ($this->y[$i] - $p);
                $h[] = $w * $p * (1.0 - $p);
            }
        } else {
            $shares = self::shares($sums)[$class];
            foreach ($shares as $i => $p) {
                $w = $this->w[$i] ?? 1.0;
                $g[] = $w * (($class === (int) $this->y[$i] ? 1.0 : 0.0) - $p);
                // Twice the curvature, as for trees of several classes: classes move together.
                $h[] = $w * 2.0 * $p * (1.0 - $p);
            }
        }

        return $this->packing->pack($g, $h);
    }

    /**
     * @param list<list<float>> $sums per class
     *
     * @return list<list<float>>
     */
    public static function shares(array $sums): array
    {
        $out = array_fill(0, \count($sums), []);
        foreach ($sums[0] as $i => $_) {
            $most = -\INF;
            foreach ($sums as $own) {
                $most = $own[$i] > $most ? $own[$i] : $most;
            }
            $all = 0.0;
            $raised = [];
            foreach ($sums as $class => $own) {
                $all += $raised[$class] = exp($own[$i] - $most);
            }
            foreach ($raised as $class => $e) {
                $out[$class][] = $e / $all;
            }
        }

        return array_values($out);
    }

    /**
     * Mean loss of rows.
     *
     * @param list<list<float>> $sums
     * @param list<float>       $y
     * @param ?list<float>      $w
     */
    public static function loss(int $kind, array $sums, array $y, ?array $w): float
    {
        $loss = $all = 0.0;
        foreach ($y as $i => $truth) {
            $weight = $w[$i] ?? 1.0;
            $all += $weight;
            $z = $sums[0][$i];
            if (self::NUMBER === $kind) {
                $loss += $weight * 0.5 * ($truth - $z) * ($truth - $z);
            } elseif (self::TWO === $kind) {
                $loss += $weight * (($z > 0.0 ? $z + log1p(exp(-$z)) : log1p(exp($z))) - $truth * $z);
            } else {
                $own = array_column($sums, $i);
                $most = max([-\INF, ...$own]);
                $sum = 0.0;
                foreach ($own as $v) {
                    $sum += exp($v - $most);
                }
                $loss += $weight * (log($sum) - ($own[(int) $truth] - $most));
            }
        }

        return $loss / max(1e-300, $all);
    }
}
