<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

/**
 * The special functions behind the distributions.
 *
 * Prefactors follow the saddle-point form (Loader 2000, "Fast and accurate computation of binomial probabilities"), which keeps
 * its relative accuracy in the far tails where differences of log-gammas lose it.
 */
final class Special
{
    private const LN_SQRT_2PI = 0.918938533204672741780329736406;
    private const EPSILON = 1e-16;
    private const TINY = 1e-300;
    private const LANCZOS = [
        0.99999999999999709182, 57.156235665862923517, -59.597960355475491248, 14.136097974741747174, -0.49191381609762019978,
        0.33994649984811888699e-4, 0.46523628927048575665e-4, -0.98374475304879564677e-4, 0.15808870322491248884e-3,
        -0.21026444172410488319e-3, 0.21743961811521264320e-3, -0.16431810653676389022e-3, 0.84418223983852743293e-4,
        -0.26190838401581408670e-4, 0.36899182659531622704e-5,
    ];

    /** ln Γ(x), x > 0 (Lanczos, g = 607/128). */
    public static function logGamma(float $x): float
    {
        if ($x < 0.5) {
            return log(\M_PI / abs(sin(\M_PI * $x))) - self::logGamma(1.0 - $x);
        }
        $x -= 1.0;
        $sum = self::LANCZOS[0];
        for ($i = 1; $i < 15; ++$i) {
            $sum += self::LANCZOS[$i] / ($x + $i);
        }
        $t = $x + 5.2421875;

        return self::LN_SQRT_2PI + log($sum) + ($x + 0.5) * log($t) - $t;
    }

    /** ln n! minus Stirling's approximation of it, n > 0. */
    public static function stirlingError(float $n): float
    {
        if ($n <= 16.0) {
            return self::logGamma($n + 1.0) - ($n + 0.5) * log($n) + $n - self::LN_SQRT_2PI;
        }
        $nn = $n * $n;

        return (1 / 12 - (1 / 360 - (1 / 1260 - (1 / 1680 - (1 / 1188 - 691 / 360360 / $nn) / $nn) / $nn) / $nn) / $nn) / $n;
    }

    /** x ln(x / m) + m - x without cancellation, x > 0, m > 0. */
    public static function deviance(float $x, float $m): float
    {
        if (abs($x - $m) >= 0.1 * ($x + $m)) {
            return $x * log($x / $m) + $m - $x;
        }
        $v = ($x - $m) / ($x + $m);
        $sum = ($x - $m) * $v;
        $term = 2.0 * $x * $v;
        $v *= $v;
        for ($j = 1; $j < 1000; ++$j) {
            $term *= $v;
            $next = $sum + $term / (2 * $j + 1);
            if ($next === $sum) {
                break;
            }
            $sum = $next;
        }

        return $sum;
    }

    /** C(n, x) p^x q^(n-x) for real 0 <= x <= n and p + q = 1. */
    public static function binomialTerm(float $x, float $n, float $p, float $q): float
    {
        if (0.0 === $p) {
            return 0.0 === $x ? 1.0 : 0.0;
        }
        if (0.0 === $q) {
            return $x === $n ? 1.0 : 0.0;
        }
        if (0.0 === $x) {
            return 0.0 === $n ? 1.0 : exp($p < 0.1 ? $n * log1p(-$p) : $n * log($q));
        }
        if ($x === $n) {
            return exp($q < 0.1 ? $n * log1p(-$q) : $n * log($p));
        }
        $core = self::stirlingError($n) - self::stirlingError($x) - self::stirlingError($n - $x)
            - self::deviance($x, $n * $p) - self::deviance($n - $x, $n * $q);

        return exp($core - self::LN_SQRT_2PI - 0.5 * (log($x) + log1p(-$x / $n)));
    }

    /** e^-m m^x / Γ(x + 1) for real x >= 0, m > 0. */
    public static function poissonTerm(float $x, float $m): float
    {
        if (0.0 === $x) {
            return exp(-$m);
        }

        return exp(-self::stirlingError($x) - self::deviance($x, $m) - self::LN_SQRT_2PI - 0.5 * log($x));
    }

    /** Regularized lower incomplete gamma P(a, x). */
    public static function gammaP(float $a, float $x): float
    {
        if ($x <= 0.0) {
            return 0.0;
        }

        return $x < $a + 1.0 ? self::gammaSeries($a, $x) : 1.0 - self::gammaFraction($a, $x);
    }

    /** Regularized upper incomplete gamma Q(a, x), computed directly in the tail. */
    public static function gammaQ(float $a, float $x): float
    {
        if ($x <= 0.0) {
            return 1.0;
        }

        return $x < $a + 1.0 ? 1.0 - self::gammaSeries($a, $x) : self::gammaFraction($a, $x);
    }

    private static function gammaSeries(float $a, float $x): float
    {
        $term = 1.0;
        $sum = 1.0;
        for ($n = 1; $n < 1000000; ++$n) {
            $term *= $x / ($a + $n);
            $sum += $term;
            if ($term < $sum * self::EPSILON) {
                break;
            }
        }

        return self::poissonTerm($a, $x) * $sum;
    }

    /** Modified Lentz evaluation of the continued fraction. */
    private static function gammaFraction(float $a, float $x): float
    {
        $b = $x + 1.0 - $a;
        $c = 1.0 / self::TINY;
        $d = 1.0 / $b;
        $h = $d;
        for ($i = 1; $i < 1000000; ++$i) {
            $an = -$i * ($i - $a);
            $b += 2.0;
            $d = 1.0 / self::awayFromZero($an * $d + $b);
            $c = self::awayFromZero($b + $an / $c);
            $delta = $d * $c;
            $h *= $delta;
            if (abs($delta - 1.0) < self::EPSILON * 4) {
                break;
            }
        }

        return self::poissonTerm($a, $x) * $a * $h;
    }

    /** Regularized incomplete beta I_x(a, b); y = 1 - x is given apart so that it keeps its digits. */
    public static function beta(float $x, float $y, float $a, float $b): float
    {
        if ($x <= 0.0) {
            return 0.0;
        }
        if ($y <= 0.0) {
            return 1.0;
        }
        if ($x > ($a + 1.0) / ($a + $b + 2.0)) {
            return 1.0 - self::betaFraction($y, $x, $b, $a);
        }

        return self::betaFraction($x, $y, $a, $b);
    }

    private static function betaFraction(float $x, float $y, float $a, float $b): float
    {
        $c = 1.0;
        $d = 1.0 / self::awayFromZero(1.0 - ($a + $b) * $x / ($a + 1.0));
        $h = $d;
        for ($m = 1; $m < 1000000; ++$m) {
            $even = $m * ($b - $m) * $x / (($a + 2 * $m - 1) * ($a + 2 * $m));
            $d = 1.0 / self::awayFromZero(1.0 + $even * $d);
            $c = self::awayFromZero(1.0 + $even / $c);
            $h *= $d * $c;
            $odd = -($a + $m) * ($a + $b + $m) * $x / (($a + 2 * $m) * ($a + 2 * $m + 1));
            $d = 1.0 / self::awayFromZero(1.0 + $odd * $d);
            $c = self::awayFromZero(1.0 + $odd / $c);
            $delta = $d * $c;
            $h *= $delta;
            if (abs($delta - 1.0) < self::EPSILON * 4) {
                break;
            }
        }

        return self::binomialTerm($a, $a + $b, $x, $y) * $b / ($a + $b) * $h;
    }

    private static function awayFromZero(float $v): float
    {
        return abs($v) < self::TINY ? self::TINY : $v;
    }
}
