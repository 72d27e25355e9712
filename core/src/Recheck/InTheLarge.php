<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Math\Distribution\Normal;

/**
 * Whether as many events came as chances had promised: their sum against what came, and the number by which all log-odds would have to be
 * moved (Cox 1958, calibration in the large).
 */
final readonly class InTheLarge
{
    private const LEAST = 1e-6;
    private const STEPS = 100;

    private function __construct(
        public int $rows,
        public float $observed,
        public float $expected,
        public float $variance,
        public float $intercept,
        public float $se,
    ) {
    }

    /**
     * @param list<float> $event  1 = the event
     * @param list<float> $chance
     */
    public static function of(array $event, array $chance): self
    {
        $expected = $variance = 0.0;
        $odds = [];
        foreach ($chance as $p) {
            $p = max(self::LEAST, min(1.0 - self::LEAST, $p));
            $expected += $p;
            $variance += $p * (1.0 - $p);
            $odds[] = log($p / (1.0 - $p));
        }
        $observed = array_sum($event);
        [$a, $se] = self::moved($odds, $observed);

        return new self(\count($event), $observed, $expected, $variance, $a, $se);
    }

    /**
     * @param list<float> $odds
     *
     * @return array{float, float} by how much, and its standard error; endless where all came, or nothing did
     */
    private static function moved(array $odds, float $observed): array
    {
        $n = \count($odds);
        if ($observed <= 0.0 || $observed >= $n) {
            return [$observed <= 0.0 ? -\INF : \INF, \INF];
        }
        $a = 0.0;
        $slope = 1.0;
        for ($step = 0; $step < self::STEPS; ++$step) {
            $sum = $slope = 0.0;
            foreach ($odds as $z) {
                $p = 1.0 / (1.0 + exp(-($a + $z)));
                $sum += $p;
                $slope += $p * (1.0 - $p);
            }
            $by = max(-2.0, min(2.0, ($observed - $sum) / max(1e-300, $slope)));
            $a += $by;
            if (abs($by) < 1e-14 * max(1.0, abs($a))) {
                break;
            }
        }
        $slope = 0.0;
        foreach ($odds as $z) {
            $p = 1.0 / (1.0 + exp(-($a + $z)));
            $slope += $p * (1.0 - $p);
        }

        return [$a, 1.0 / sqrt($slope)];
    }

    /** What came less what was promised, a record. */
    public function off(): float
    {
        return ($this->observed - $this->expected) / $this->rows;
    }

    public function z(): float
    {
        return $this->variance > 0.0 ? ($this->observed - $this->expected) / sqrt($this->variance) : 0.0;
    }

    public function p(): float
    {
        return (new Normal())->twoSided($this->z());
    }

    /** @return array<string, ?float> by the names of the reference */
    public function toArray(): array
    {
        $known = is_finite($this->intercept);

        return [
            'observed' => $this->observed,
            'expected' => $this->expected,
            'observed_to_expected' => $this->expected > 0.0 ? $this->observed / $this->expected : null,
            'difference_of_shares' => $this->off(),
            'z' => $this->z(),
            'p' => $this->p(),
            'intercept' => $known ? $this->intercept : null,
            'intercept_se' => $known ? $this->se : null,
            'intercept_low' => $known ? $this->intercept - Normal::Z95 * $this->se : null,
            'intercept_high' => $known ? $this->intercept + Normal::Z95 * $this->se : null,
            'intercept_p' => $known ? (new Normal())->twoSided($this->intercept / $this->se) : null,
        ];
    }
}
