<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\Binomial;
use Dokimos\Core\Math\Distribution\ChiSquare;

/** Whether two scores are right on different records more often than chance would have it (McNemar 1947). */
final class McNemar
{
    /**
     * Rows by who is right, and the tests that both are right equally often; null where none is parted.
     *
     * @param list<float> $event
     * @param list<float> $first
     * @param list<float> $second
     *
     * @return array{cutoff: float, both_right: int, only_score_right: int, only_score2_right: int, both_wrong: int, exact_p: float, chi2_continuity: ?float, chi2_p: ?float}
     */
    public static function test(array $event, array $first, array $second, float $cutoff): array
    {
        $both = $b = $c = $none = 0;
        foreach ($event as $i => $e) {
            $right = ($first[$i] >= $cutoff) === ($e > 0.5);
            $right2 = ($second[$i] >= $cutoff) === ($e > 0.5);
            match (true) {
                $right && $right2 => ++$both,
                $right => ++$b,
                $right2 => ++$c,
                default => ++$none,
            };
        }
        $chi2 = $b + $c > 0 ? (abs($b - $c) - 1) ** 2 / ($b + $c) : null;

        return [
            'cutoff' => $cutoff, 'both_right' => $both, 'only_score_right' => $b, 'only_score2_right' => $c, 'both_wrong' => $none,
            'exact_p' => $b + $c > 0 ? min(1.0, 2 * (new Binomial($b + $c, 0.5))->cdf(min($b, $c))) : 1.0,
            'chi2_continuity' => $chi2,
            'chi2_p' => null === $chi2 ? null : (new ChiSquare(1))->upper($chi2),
        ];
    }
}
