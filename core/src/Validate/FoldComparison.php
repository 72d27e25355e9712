<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Math\Distribution\StudentT;

/**
 * Two models on the same folds and repeats: the corrected resampled t test (Nadeau and Bengio 2003), and the plain one that is too
 * optimistic beside it. Formulas: docs/methods/intervals.md.
 */
final class FoldComparison
{
    /**
     * @param list<float> $a     one figure per fold and repeat
     * @param list<float> $b
     * @param float       $ratio validation rows for one training row
     *
     * @return array<string, mixed> named as in the reference
     *
     * @throws \LengthException two models are compared on the same folds, at least two of them
     */
    public static function of(array $a, array $b, float $ratio): array
    {
        $j = \count($a);
        if ($j < 2 || \count($b) !== $j) {
            throw new \LengthException('Two models are compared on the same folds, at least two of them.');
        }
        $differences = array_map(static fn (float $x, float $y): float => $x - $y, $a, $b);
        [$mean, $sd] = self::moments($differences);
        $t = new StudentT($j - 1);
        $reach = $t->quantile(0.975);
        $test = static function (float $se) use ($mean, $t, $reach, $j): array {
            $ratio = $se > 0.0 ? $mean / $se : null;

            return [
                'se' => $se,
                't' => $ratio,
                'df' => $j - 1,
                'p' => null === $ratio ? null : $t->twoSided($ratio),
                'ci_low' => $mean - $reach * $se,
                'ci_high' => $mean + $reach * $se,
            ];
        };
        $own = static function (array $figures) use ($ratio, $reach, $j): array {
            /** @var non-empty-list<float> $figures */
            [$mean, $sd] = self::moments($figures);
            $se = sqrt((1 / $j + $ratio) * $sd * $sd);

            return [
                'mean' => $mean,
                'sd' => $sd,
                'se_naive' => $sd / sqrt($j),
                'se_corrected' => $se,
                'ci_low' => $mean - $reach * $se,
                'ci_high' => $mean + $reach * $se,
                'min' => min($figures),
                'max' => max($figures),
            ];
        };

        return [
            'J' => $j,
            'test_train_ratio' => $ratio,
            'model_a' => $own($a),
            'model_b' => $own($b),
            'difference' => ['mean' => $mean, 'sd' => $sd],
            'corrected' => $test(sqrt((1 / $j + $ratio) * $sd * $sd)),
            'uncorrected' => $test($sd / sqrt($j)),
        ];
    }

    /**
     * @param list<float> $values
     *
     * @return array{float, float} mean and standard deviation, divisor n - 1
     */
    private static function moments(array $values): array
    {
        $n = \count($values);
        $mean = array_sum($values) / $n;
        $square = 0.0;
        foreach ($values as $v) {
            $square += ($v - $mean) ** 2;
        }

        return [$mean, sqrt($square / ($n - 1))];
    }
}
