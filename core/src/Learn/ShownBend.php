<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Design\Bends;
use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Term;
use Dokimos\Core\Math\Distribution\Normal;

/** What a number adds along its curve, against its middle knot. */
final readonly class ShownBend
{
    private const POINTS = 60;

    /**
     * @param list<float> $knots
     * @param list<float> $at
     * @param list<float> $adds  log-odds of an event, or in the unit of the number
     * @param list<float> $half  what its 95 % interval reaches to each side, pointwise; none where the coefficients have no errors
     */
    public function __construct(public string $column, public array $knots, public array $at, public array $adds, public array $half)
    {
    }

    /**
     * @param array<array-key, float>                 $coefficients by term
     * @param (\Closure(string, string): ?float)|null $covariance   of two terms; null = there are no errors
     *
     * @return list<self>
     */
    public static function all(Coding $coding, array $coefficients, ?\Closure $covariance = null): array
    {
        $out = [];
        foreach ($coding->bends as $name => $bends) {
            $curve = $coding->curve((string) $name, $coefficients);
            if (null === $curve) {
                continue;
            }
            $knots = $bends->knots;
            [$first, $last] = [$knots[0], $knots[\count($knots) - 1]];
            $reach = 0.15 * ($last - $first);
            $center = $knots[intdiv(\count($knots), 2)];
            $middle = $curve($center);
            $at = $adds = $half = [];
            for ($k = 0; $k <= self::POINTS; ++$k) {
                $at[] = $x = $first - $reach + $k * ($last - $first + 2 * $reach) / self::POINTS;
                $adds[] = $curve($x) - $middle;
                $error = null === $covariance ? null : self::error((string) $name, $bends, $x, $center, $covariance);
                if (null !== $error) {
                    $half[] = Normal::Z95 * $error;
                }
            }
            $out[] = new self((string) $name, $knots, $at, $adds, $half);
        }

        return $out;
    }

    /**
     * Standard error of what it adds at a value against another: sqrt(dᵀ V d), d the difference of its terms.
     *
     * @param \Closure(string, string): ?float $covariance
     */
    private static function error(string $name, Bends $bends, float $x, float $from, \Closure $covariance): ?float
    {
        $d = [$name => $x - $from];
        for ($j = 1; $j <= $bends->more(); ++$j) {
            $d[(new Term($name, bend: $j))->name()] = $bends->of($j, $x) - $bends->of($j, $from);
        }
        $sum = 0.0;
        foreach ($d as $a => $da) {
            foreach ($d as $b => $db) {
                $v = $covariance((string) $a, (string) $b);
                if (null === $v) {
                    return null;
                }
                $sum += $da * $v * $db;
            }
        }

        return sqrt(max(0.0, $sum));
    }
}
