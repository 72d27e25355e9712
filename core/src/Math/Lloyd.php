<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Groups of points around centers: Lloyd's rounds (1982) from given centers, or from centers drawn far apart (Arthur and Vassilvitskii 2007). */
final readonly class Lloyd
{
    private const MOST_ROUNDS = 300;

    /**
     * @param list<list<float>> $centers
     * @param list<int>         $labels  number of the center, from 0
     * @param float             $inertia sum of squared distances to the own center
     */
    private function __construct(public array $centers, public array $labels, public float $inertia, public int $rounds)
    {
    }

    /**
     * @param list<list<float>> $points
     * @param list<list<float>> $centers
     */
    public static function from(array $points, array $centers): self
    {
        $labels = [];
        $inertia = 0.0;
        for ($round = 1; $round <= self::MOST_ROUNDS; ++$round) {
            $before = $labels;
            $labels = $sums = $counts = [];
            $inertia = 0.0;
            foreach ($points as $point) {
                [$own, $distance] = self::nearest($point, $centers);
                $labels[] = $own;
                $inertia += $distance;
                $counts[$own] = ($counts[$own] ?? 0) + 1;
                foreach ($point as $j => $x) {
                    $sums[$own][$j] = ($sums[$own][$j] ?? 0.0) + $x;
                }
            }
            if ($labels === $before) {
                return new self($centers, $labels, $inertia, $round);
            }
            foreach ($sums as $own => $sum) {
                // A center that lost all its points stays where it was.
                $centers[$own] = array_map(static fn (float $s) => $s / $counts[$own], array_values($sum));
            }
        }

        return new self($centers, $labels, $inertia, self::MOST_ROUNDS);
    }

    /**
     * @param list<list<float>> $points
     * @param int               $tries  draws, of which the one with the least inertia is taken
     *
     * @throws \InvalidArgumentException at least one draw is needed
     */
    public static function drawn(array $points, int $k, int $seed, int $tries = 4): self
    {
        $random = new Randomizer(new Mt19937($seed));
        $best = null;
        for ($try = 0; $try < $tries; ++$try) {
            $centers = [$points[$random->getInt(0, \count($points) - 1)]];
            $distances = array_map(static fn (array $p) => self::nearest($p, $centers)[1], $points);
            while (\count($centers) < $k) {
                $at = $random->getInt(0, (1 << 52) - 1) / (1 << 52) * array_sum($distances);
                $chosen = 0;
                foreach ($distances as $i => $d) {
                    $at -= $d;
                    if ($at < 0.0) {
                        $chosen = $i;
                        break;
                    }
                }
                $centers[] = $points[$chosen];
                foreach ($points as $i => $point) {
                    $distances[$i] = min($distances[$i], self::square($point, $points[$chosen]));
                }
            }
            $found = self::from($points, $centers);
            $best = null === $best || $found->inertia < $best->inertia ? $found : $best;
        }

        return $best ?? throw new \InvalidArgumentException('At least one draw is needed.');
    }

    /**
     * @param list<float>       $point
     * @param list<list<float>> $centers
     *
     * @return array{int, float} number of the nearest center (ties: the lower number) and the squared distance
     */
    public static function nearest(array $point, array $centers): array
    {
        $own = 0;
        $least = \INF;
        // Kernel: written out here, because it is called for every point and center of every round.
        foreach ($centers as $i => $center) {
            $d = 0.0;
            foreach ($point as $j => $x) {
                $e = $x - $center[$j];
                $d += $e * $e;
            }
            if ($d < $least) {
                $least = $d;
                $own = $i;
            }
        }

        return [$own, $least];
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     */
    private static function square(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $j => $x) {
            $sum += ($x - $b[$j]) ** 2;
        }

        return $sum;
    }

    /**
     * How well points sit with their own center rather than the next one, from -1 to 1: the mean of (b - a)/max(a, b), with a the
     * distance to the own and b to the next center (the simplified silhouette, Hruschka 2004).
     *
     * @param list<list<float>> $points
     */
    public function silhouette(array $points): float
    {
        $sum = 0.0;
        foreach ($points as $i => $point) {
            $others = $this->centers;
            unset($others[$this->labels[$i]]);
            $a = sqrt(self::square($point, $this->centers[$this->labels[$i]]));
            $b = [] === $others ? 0.0 : sqrt(min(array_map(static fn (array $c) => self::square($point, $c), $others)));
            $sum += max($a, $b) > 0.0 ? ($b - $a) / max($a, $b) : 0.0;
        }

        return $sum / max(1, \count($points));
    }
}
