<?php

declare(strict_types=1);

namespace App\Reasons;

use Dokimos\Core\Table\NumberColumn;

/** Says in words which way answers go with a column. */
final class Words
{
    /** Of a curve's whole change, the stretch that is named holds so much. */
    private const HELD = 0.6;

    /**
     * The shortest stretch of a rising or falling curve that holds most of its change.
     *
     * @param list<float> $xs
     * @param list<float> $ys
     *
     * @return ?array{float, float, float} from, to, change; null for a curve that hardly moves or turns back
     */
    public static function stretch(array $xs, array $ys): ?array
    {
        $n = \count($ys);
        if ($n < 2) {
            return null;
        }
        $range = max($ys) - min($ys);
        $all = $ys[$n - 1] - $ys[0];
        if ($range <= 0.0 || abs($all) < 0.7 * $range) {
            return null;
        }
        $best = null;
        for ($i = 0; $i < $n; ++$i) {
            for ($j = $i + 1; $j < $n; ++$j) {
                $change = $ys[$j] - $ys[$i];
                if ($change * $all > 0.0 && abs($change) >= self::HELD * abs($all) && (null === $best || $xs[$j] - $xs[$i] < $best[1] - $best[0])) {
                    $best = [$xs[$i], $xs[$j], $change];
                }
            }
        }

        return $best;
    }

    /**
     * @param list<float>  $xs     of a number or a date
     * @param list<string> $levels of a category
     * @param list<float>  $ys     mean answers
     * @param float        $least  change worth a word
     */
    public static function goes(array $xs, array $levels, array $ys, float $least, bool $days): string
    {
        if ([] === $ys || max($ys) - min($ys) < $least) {
            return 'hardly at all';
        }
        if ([] !== $levels) {
            $order = array_keys($ys);
            usort($order, static fn (int $a, int $b): int => $ys[$b] <=> $ys[$a]);
            $top = $levels[$order[0]];

            return 2 === \count($levels) ? 'up for '.$top : \sprintf('up for %s, down for %s', $top, $levels[$order[\count($order) - 1]]);
        }
        $stretch = self::stretch($xs, $ys);
        if (null === $stretch) {
            $high = $xs[(int) array_search(max($ys), $ys, true)];
            $low = $xs[(int) array_search(min($ys), $ys, true)];

            return \sprintf('highest near %s, lowest near %s', self::at($high, $days), self::at($low, $days));
        }

        return \sprintf('%s from %s to %s', $stretch[2] > 0 ? 'up' : 'down', self::at($stretch[0], $days), self::at($stretch[1], $days));
    }

    public static function at(float $x, bool $days): string
    {
        return $days ? gmdate('j M Y', (int) round($x * 86400)) : NumberColumn::write((float) \sprintf('%.3g', $x));
    }
}
