<?php

declare(strict_types=1);

namespace Dokimos\Core\Math\Distribution;

use Dokimos\Core\Math\Special;

/** The standard normal distribution. */
final readonly class Normal implements Continuous
{
    /** The 97.5 % point: half-width of a 95 % interval in standard errors. */
    public const Z95 = 1.959963984540054;

    public function cdf(float $x): float
    {
        return $x < 0.0 ? $this->upper(-$x) : 1.0 - $this->upper($x);
    }

    public function upper(float $x): float
    {
        if ($x < 0.0) {
            return 1.0 - $this->upper(-$x);
        }

        return 0.5 * Special::gammaQ(0.5, 0.5 * $x * $x);
    }

    /** P(|Z| > |z|). */
    public function twoSided(float $z): float
    {
        return 2.0 * $this->upper(abs($z));
    }

    public function pdf(float $x): float
    {
        return exp(-0.5 * $x * $x) / sqrt(2.0 * \M_PI);
    }

    /** Rational approximation AS 241 (Wichura 1988), then one Halley step. */
    public function quantile(float $p): float
    {
        $q = $p - 0.5;
        if (abs($q) <= 0.425) {
            $r = 0.180625 - $q * $q;
            $x = $q * self::ratio($r, [2509.0809287301226727, 33430.575583588128105, 67265.770927008700853, 45921.953931549871457, 13731.693765509461125, 1971.5909503065514427, 133.14166789178437745, 3.387132872796366608],
                [5226.495278852854561, 28729.085735721942674, 39307.89580009271061, 21213.794301586595867, 5394.1960214247511077, 687.1870074920579083, 42.313330701600911252, 1.0]);
        } else {
            $r = sqrt(-log($q < 0 ? $p : 1.0 - $p));
            if ($r <= 5.0) {
                $x = self::ratio($r - 1.6, [7.7454501427834140764e-4, 0.0227238449892691845833, 0.24178072517745061177, 1.27045825245236838258, 3.64784832476320460504, 5.7694972214606914055, 4.6303378461565452959, 1.42343711074968357734],
                    [1.05075007164441684324e-9, 5.475938084995344946e-4, 0.0151986665636164571966, 0.14810397642748007459, 0.68976733498510000455, 1.6763848301838038494, 2.05319162663775882187, 1.0]);
            } else {
                $x = self::ratio($r - 5.0, [2.01033439929228813265e-7, 2.71155556874348757815e-5, 0.0012426609473880784386, 0.026532189526576123093, 0.29656057182850489123, 1.7848265399172913358, 5.4637849111641143699, 6.6579046435011037772],
                    [2.04426310338993978564e-15, 1.4215117583164458887e-7, 1.8463183175100546818e-5, 7.868691311456132591e-4, 0.0148753612908506148525, 0.13692988092273580531, 0.59983220655588793769, 1.0]);
            }
            $x = $q < 0 ? -$x : $x;
        }
        $error = $q < 0 ? $this->cdf($x) - $p : (1.0 - $p) - $this->upper($x);
        $density = $this->pdf($x);
        if ($density > 1e-280) {
            $u = $error / $density;
            $x -= $u / (1.0 + 0.5 * $x * $u);
        }

        return $x;
    }

    /**
     * Two polynomials by Horner's rule, highest power first.
     *
     * @param list<float> $numerator
     * @param list<float> $denominator
     */
    private static function ratio(float $r, array $numerator, array $denominator): float
    {
        $n = $d = 0.0;
        foreach ($numerator as $i => $c) {
            $n = $n * $r + $c;
            $d = $d * $r + $denominator[$i];
        }

        return $n / $d;
    }
}
