<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\Normal;

/** A figure with its 95 % interval. Which method gives which interval: docs/methods/intervals.md. */
final readonly class Interval
{
    public function __construct(public ?float $value, public ?float $low = null, public ?float $high = null)
    {
    }

    /** Wilson's interval for a share (Wilson 1927); null when there is nothing to count. */
    public static function wilson(float $hits, float $of): self
    {
        if ($of <= 0.0) {
            return new self(null);
        }
        $z2 = Normal::Z95 ** 2;
        $p = $hits / $of;
        $center = ($p + $z2 / (2 * $of)) / (1 + $z2 / $of);
        $half = Normal::Z95 / (1 + $z2 / $of) * sqrt($p * (1 - $p) / $of + $z2 / (4 * $of * $of));

        // At a share of 0 or 1 rounding must not leave the share outside.
        return new self($p, max(0.0, min($p, $center - $half)), min(1.0, max($p, $center + $half)));
    }

    /**
     * Mean of per-row values, normal approximation.
     *
     * @param list<float>  $values
     * @param ?list<float> $weights none below 0
     */
    public static function mean(array $values, ?array $weights = null): self
    {
        if (null !== $weights) {
            return self::weightedMean($values, $weights);
        }
        $n = \count($values);
        if (0 === $n) {
            return new self(null);
        }
        $mean = array_sum($values) / $n;
        if ($n < 2) {
            return new self($mean);
        }
        $square = 0.0;
        foreach ($values as $v) {
            $square += ($v - $mean) ** 2;
        }
        $half = Normal::Z95 * sqrt($square / ($n - 1) / $n);

        return new self($mean, $mean - $half, $mean + $half);
    }

    /**
     * m = Σ w v / Σ w with variance n / (n − 1) Σ w² (v − m)² / (Σ w)², n rows of a weight above 0 (Cochran 1977, section 2.11).
     *
     * @param list<float> $values
     * @param list<float> $weights
     */
    private static function weightedMean(array $values, array $weights): self
    {
        $sum = array_sum($weights);
        $n = \count(array_filter($weights));
        if ($sum <= 0.0) {
            return new self(null);
        }
        $mean = 0.0;
        foreach ($values as $i => $v) {
            $mean += $weights[$i] * $v / $sum;
        }
        if ($n < 2) {
            return new self($mean);
        }
        $square = 0.0;
        foreach ($values as $i => $v) {
            $square += ($weights[$i] / $sum * ($v - $mean)) ** 2;
        }
        $half = Normal::Z95 * sqrt($square * $n / ($n - 1));

        return new self($mean, $mean - $half, $mean + $half);
    }

    /** F1 is 2J / (1 + J) of the share J = hits among hits, false alarms and misses; Wilson's ends are carried over. */
    public static function f1(float $hits, float $falseAlarms, float $misses): self
    {
        $share = self::wilson($hits, $hits + $falseAlarms + $misses);
        $carry = static fn (?float $j): ?float => null === $j ? null : 2 * $j / (1 + $j);

        return new self($carry($share->value), $carry($share->low), $carry($share->high));
    }

    /** @return array{value: ?float, low: ?float, high: ?float} */
    public function toArray(): array
    {
        return ['value' => $this->value, 'low' => $this->low, 'high' => $this->high];
    }
}
