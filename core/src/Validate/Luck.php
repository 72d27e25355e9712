<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Random;

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
     * @param list<float>       $outcome
     * @param list<list<float>> $answers per trial, one per row, of several classes the chances of all; no NAN
     *
     * @return ?float how much better the leader looks than it is, above 0; null with fewer than two trials
     */
    public static function of(Figure $figure, array $outcome, array $answers, int $seed = 2026): ?float
    {
        $n = \count($outcome);
        if (\count($answers) < 2 || $n < 20) {
            return null;
        }
        $picked = $n <= self::ROWS ? range(0, $n - 1) : array_map(static fn (int $i): int => intdiv($i * $n, self::ROWS), range(0, self::ROWS - 1));
        $n = \count($picked);
        $own = array_map(static fn (int $row): float => $outcome[$row], $picked);
        $width = intdiv(\count($answers[0]), \count($outcome));
        $measured = [];
        foreach ($answers as $all) {
            $mine = [];
            foreach ($picked as $row) {
                array_push($mine, ...\array_slice($all, $row * $width, $width));
            }
            $measured[] = self::prepared($figure, $own, $mine);
        }
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
                $value = self::value($figure, $own, $one, $counts);
                if (null !== $value && (null === $best || $sign * $value > $sign * $best)) {
                    [$best, $at] = [$value, $t];
                }
            }
            $left = null === $at ? null : self::value($figure, $own, $measured[$at], $out);
            if (null !== $best && null !== $left) {
                $luck += $sign * ($best - $left);
                ++$draws;
            }
        }

        return 0 === $draws ? null : max(0.0, $luck / $draws);
    }

    /**
     * Of an AUC the order of the rows, ties together; else what is lost on each row.
     *
     * @param list<float> $outcome
     * @param list<float> $answers
     *
     * @return array{order: list<list<int>>, losses: list<float>}
     */
    private static function prepared(Figure $figure, array $outcome, array $answers): array
    {
        if (AboutLearner::TWO !== $figure->task || 'AUC' !== $figure->name) {
            return ['order' => [], 'losses' => $figure->losses($outcome, $answers)];
        }
        arsort($answers);
        $order = [];
        $last = null;
        foreach ($answers as $row => $score) {
            if ($score === $last) {
                $order[\count($order) - 1][] = $row;
            } else {
                $order[] = [$row];
            }
            $last = $score;
        }

        return ['order' => $order, 'losses' => []];
    }

    /**
     * @param list<float>                                        $outcome
     * @param array{order: list<list<int>>, losses: list<float>} $one
     * @param array<int, int>                                    $counts
     */
    private static function value(Figure $figure, array $outcome, array $one, array $counts): ?float
    {
        if ([] === $one['order']) {
            $sum = $all = 0.0;
            foreach ($one['losses'] as $i => $loss) {
                $sum += $counts[$i] * $loss;
                $all += $counts[$i];
            }

            return $all > 0.0 ? ('RMSE' === $figure->name ? sqrt($sum / $all) : $sum / $all) : null;
        }
        $events = $others = $area = 0.0;
        foreach ($one['order'] as $tied) {
            $with = $without = 0.0;
            foreach ($tied as $row) {
                if ($outcome[$row] > 0.5) {
                    $with += $counts[$row];
                } else {
                    $without += $counts[$row];
                }
            }
            $area += $without * ($events + 0.5 * $with);
            $events += $with;
            $others += $without;
        }

        return $events > 0.0 && $others > 0.0 ? $area / $events / $others : null;
    }
}
