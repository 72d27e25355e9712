<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Learn\ShownCoefficient;
use Dokimos\Core\Math\Distribution\Normal;

/** One estimated effect on the log-odds; the error is null when it does not exist (separation). */
final readonly class Coefficient
{
    public function __construct(public string $name, public float $estimate, public ?float $error)
    {
    }

    /**
     * Wald statistics; definitions in docs/methods/logistic-regression.md.
     *
     * @return array{name: string, estimate: float, se: ?float, z: ?float, p: ?float, wald_chi2: ?float, ci_low: ?float, ci_high: ?float, odds_ratio: float, or_ci_low: ?float, or_ci_high: ?float}
     */
    public function toArray(): array
    {
        $se = $this->error;
        // An error too small for a double is as good as none.
        $z = null === $se || 0.0 === $se ? null : $this->estimate / $se;
        $low = null === $se ? null : $this->estimate - Normal::Z95 * $se;
        $high = null === $se ? null : $this->estimate + Normal::Z95 * $se;

        return [
            'name' => $this->name,
            'estimate' => $this->estimate,
            'se' => $se,
            'z' => $z,
            'p' => null === $z ? null : (new Normal())->twoSided($z),
            'wald_chi2' => null === $z ? null : $z * $z,
            'ci_low' => $low,
            'ci_high' => $high,
            'odds_ratio' => self::bounded(exp($this->estimate)),
            'or_ci_low' => null === $low ? null : self::bounded(exp($low)),
            'or_ci_high' => null === $high ? null : self::bounded(exp($high)),
        ];
    }

    private static function bounded(float $ratio): float
    {
        return is_finite($ratio) ? $ratio : \PHP_FLOAT_MAX;
    }

    /** @param ?string $class of several classes the one it is of */
    public function shown(?string $class): ShownCoefficient
    {
        $a = $this->toArray();

        return new ShownCoefficient($a['name'], $class, $a['estimate'], $a['se'], $a['z'], $a['p'], $a['ci_low'], $a['ci_high'], $a['odds_ratio'], $a['or_ci_low'], $a['or_ci_high']);
    }
}
