<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;

/**
 * The price of clarity: what the best of the models that can be read loses against the best of all, both chosen anew on rows drawn with
 * replacement and judged on the rows left out, so that neither is flattered by having been chosen. Definition: docs/methods/finalists.md.
 */
final class Clarity
{
    private const DRAWS = 200;
    private const ROWS = 6000;
    /** Rows left out are exp(-1) of all. */
    private const LEFT_OUT = 0.36787944117144233;

    /**
     * @param list<float>   $outcome
     * @param list<Answers> $answers of each trial on the same rows; no NAN
     * @param list<bool>    $clear   which of them may be the clearest
     * @param list<bool>    $strong  which of them may be the strongest; those that a person named are the only ones
     * @param ?list<float>  $weights
     *
     * @return Interval of the loss, 0 or more where the clear one is worse, whichever way the figure is better; no value where it cannot be told
     */
    public static function of(
        Figure $figure,
        array $outcome,
        array $answers,
        array $strong,
        array $clear,
        int $seed = 2026,
        ?array $weights = null,
    ): Interval {
        $n = \count($outcome);
        if (!\in_array(true, $strong, true) || !\in_array(true, $clear, true) || $n < 20) {
            return new Interval(null);
        }
        $picked = $n <= self::ROWS ? range(0, $n - 1) : array_map(
            static fn (int $i): int => intdiv($i * $n, self::ROWS),
            range(0, self::ROWS - 1),
        );
        $size = \count($picked);
        $own = array_map(static fn (int $row): float => $outcome[$row], $picked);
        $measured = array_map(static fn (Answers $all): \Closure => $figure->redrawn(new Sample($own, $all->take($picked))), $answers);
        $random = Random::stream($seed, 'price of clarity');
        $sign = $figure->more ? 1.0 : -1.0;
        $losses = [];
        for ($k = 0; $k < self::DRAWS; ++$k) {
            $counts = array_fill(0, $size, 0);
            for ($i = 0; $i < $size; ++$i) {
                ++$counts[$random->getInt(0, $size - 1)];
            }
            $out = [];
            foreach ($counts as $i => $c) {
                $w = $weights[$picked[$i]] ?? 1.0;
                $out[] = 0 === $c ? $w : 0.0;
                $counts[$i] = $c * $w;
            }
            $values = array_map(static fn (\Closure $one): ?float => $one($counts), $measured);
            $at = [self::best($values, $strong, $sign), self::best($values, $clear, $sign)];
            $left = array_map(static fn (?int $t): ?float => null === $t ? null : $measured[$t]($out), $at);
            if (null !== $left[0] && null !== $left[1]) {
                $losses[] = $sign * ($left[0] - $left[1]);
            }
        }
        $draws = \count($losses);
        if ($draws < 2) {
            return new Interval(null);
        }
        $mean = array_sum($losses) / $draws;
        $square = array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $losses)) / ($draws - 1);
        $half = 1.959963984540054 * sqrt($square * self::LEFT_OUT / (1 - self::LEFT_OUT) * $size / $n);

        return new Interval($mean, $mean - $half, $mean + $half);
    }

    /**
     * @param list<?float> $values
     * @param list<bool>   $may
     */
    private static function best(array $values, array $may, float $sign): ?int
    {
        $at = null;
        foreach ($values as $t => $value) {
            if ($may[$t] && null !== $value && (null === $at || $sign * $value > $sign * $values[$at])) {
                $at = $t;
            }
        }

        return $at;
    }
}
