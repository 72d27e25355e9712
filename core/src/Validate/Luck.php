<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;

/**
 * How much luck the leader of many trials holds: rows are drawn with replacement, the best on these is chosen, and judged on the rows left
 * out. What it loses there, on average, is what being chosen gave it. Definition: docs/methods/intervals.md.
 */
final class Luck
{
    private const DRAWS = 100;
    /** Rows looked at, at most: evenly taken. */
    private const ROWS = 6000;

    /**
     * @param non-empty-list<float> $outcome
     * @param list<Answers>         $answers per trial; no NAN
     *
     * @return ?float how much better the leader looks than it is, above 0; null with fewer than two trials
     */
    public static function of(Figure $figure, array $outcome, array $answers, int $seed = 2026): ?float
    {
        $n = \count($outcome);
        if (\count($answers) < 2 || $n < 20) {
            return null;
        }
        $picked = $n <= self::ROWS ? range(0, $n - 1) : array_map(
            static fn (int $i): int => intdiv($i * $n, self::ROWS),
            range(0, self::ROWS - 1),
        );
        $n = \count($picked);
        $own = array_map(static fn (int $row): float => $outcome[$row], $picked);
        $measured = array_map(static fn (Answers $all): \Closure => $figure->redrawn(new Sample($own, $all->take($picked))), $answers);
        $random = Random::stream($seed, 'luck');
        $sign = $figure->more ? 1.0 : -1.0;
        $luck = 0.0;
        $draws = 0;
        for ($k = 0; $k < self::DRAWS; ++$k) {
            $counts = array_fill(0, $n, 0);
            for ($i = 0; $i < $n; ++$i) {
                ++$counts[$random->getInt(0, $n - 1)];
            }
            $out = array_map(static fn (int $c): int => 0 === $c ? 1 : 0, $counts);
            $best = $at = null;
            foreach ($measured as $t => $one) {
                $value = $one($counts);
                if (null !== $value && (null === $best || $sign * $value > $sign * $best)) {
                    [$best, $at] = [$value, $t];
                }
            }
            $left = null === $at ? null : $measured[$at]($out);
            if (null !== $best && null !== $left) {
                $luck += $sign * ($best - $left);
                ++$draws;
            }
        }

        return 0 === $draws ? null : max(0.0, $luck / $draws);
    }
}
