<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** Whether a share, or a mean, of some records can be relied on: the one answer for trees, rules, groups and tiers. */
final class Verdict
{
    public const SOUND = 'Sound';
    public const THIN = 'Thin';
    public const SPLIT = 'Split';
    /** The width from which on the interval of a share says little. */
    private const WIDE = 0.2;
    private const FEW = 30;

    /**
     * @param float  $cutoff what the interval should be clear of
     * @param ?float $wide   the width from which on an interval says little; null = that of a share
     */
    public static function of(Interval $share, int $rows, float $cutoff, ?float $wide = null): string
    {
        return match (true) {
            null === $share->low || null === $share->high || $rows < self::FEW || $share->high - $share->low > ($wide ?? self::WIDE) => self::THIN,
            $share->low < $cutoff && $share->high > $cutoff => self::SPLIT,
            default => self::SOUND,
        };
    }
}
