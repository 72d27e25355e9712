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

    /**
     * Wilson's interval for a share (Wilson 1927); null when there is nothing to count.
     *
     * @param float $z standard errors to each side: more than for 95 % where many intervals have to hold at once
     */
    public static function wilson(float $hits, float $of, float $z = Normal::Z95): self
    {
        if ($of <= 0.0) {
            return new self(null);
        }
        $z2 = $z ** 2;
        $p = $hits / $of;
        $center = ($p + $z2 / (2 * $of)) / (1 + $z2 / $of);
        $half = $z / (1 + $z2 / $of) * sqrt($p * (1 - $p) / $of + $z2 / (4 * $of * $of));

        // At a share of 0 or 1 rounding must not leave the share outside.
        return new self($p, max(0.0, min($p, $center - $half)), min(1.0, max($p, $center + $half)));
    }

    /**
     * Mean of per-row values, normal approximation.
     *
     * @param list<float>  $values
     * @param ?list<float> $weights none below 0
     * @param bool         $counts  whether a weight is a number of records: weight 3 is the same as three records
     */
    public static function mean(array $values, ?array $weights = null, bool $counts = false): self
    {
        if (null !== $weights) {
            return self::weightedMean($values, $weights, $counts);
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
     * m = Σ w v / Σ w with variance n / (n − 1) Σ w² (v − m)² / (Σ w)², n rows of a weight above 0 (Cochran 1977, section 2.11); where weights
     * are counts of records, Σ w (v − m)² / (W − 1) / W with W = Σ w, as of W records.
     *
     * @param list<float> $values
     * @param list<float> $weights
     */
    private static function weightedMean(array $values, array $weights, bool $counts): self
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
        if ($counts ? $sum < 2.0 : $n < 2) {
            return new self($mean);
        }
        $square = 0.0;
        if ($counts) {
            foreach ($values as $i => $v) {
                $square += $weights[$i] * ($v - $mean) ** 2;
            }
            $half = Normal::Z95 * sqrt($square / ($sum - 1) / $sum);

            return new self($mean, $mean - $half, $mean + $half);
        }
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

    /**
     * The same interval around another value, its distances times a factor.
     *
     * @param bool   $ratio whether distances are ratios, as of a size that cannot be below 0
     * @param ?float $least that the lower end does not pass
     */
    public function around(float $value, float $factor, bool $ratio = false, ?float $least = null, ?float $most = null): self
    {
        if (null === $this->value || null === $this->low || null === $this->high) {
            return new self($value);
        }
        if ($ratio && $this->low > 0.0) {
            return new self($value, $value * ($this->low / $this->value) ** $factor, $value * ($this->high / $this->value) ** $factor);
        }
        $low = $value - $factor * ($this->value - $this->low);
        $high = $value + $factor * ($this->high - $this->value);

        return new self($value, null === $least ? $low : max($least, $low), null === $most ? $high : min($most, $high));
    }

    /**
     * This one less another of other records, with the interval recovered from both (MOVER; Zou and Donner 2008, Statistics in Medicine
     * 27:1693):
     * each end from the end of either that lies on its side.
     *
     * @return ?self null where one of them has no interval
     */
    public function less(self $other): ?self
    {
        if (null === $this->value || null === $this->low || null === $this->high) {
            return null;
        }
        if (null === $other->value || null === $other->low || null === $other->high) {
            return null;
        }
        $difference = $this->value - $other->value;

        return new self(
            $difference,
            $difference - hypot($this->value - $this->low, $other->high - $other->value),
            $difference + hypot($this->high - $this->value, $other->value - $other->low),
        );
    }

    /** @return array{value: ?float, low: ?float, high: ?float} */
    public function toArray(): array
    {
        return ['value' => $this->value, 'low' => $this->low, 'high' => $this->high];
    }
}
