<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Progress;

/**
 * The tree over columns that holds most of what they tell of each other within a class (Chow and Liu 1968; Friedman, Geiger and
 * Goldszmidt 1997). Definition: docs/methods/bayes-network.md.
 */
final class Spanning
{
    /**
     * Conditional mutual information of every two columns, in nats, by relative frequencies. Hot loop.
     *
     * @param list<list<int>> $codes   per column, one a row; -1 = skipped
     * @param list<int>       $sizes
     * @param list<int>       $classes
     * @param list<float>     $weights
     *
     * @return list<list<float>> symmetric, 0 on its diagonal
     */
    public static function information(array $codes, array $sizes, array $classes, array $weights, int $many, Progress $progress): array
    {
        $d = \count($codes);
        $out = array_fill(0, $d, array_fill(0, $d, 0.0));
        $isEqual = 1 === \count(array_unique($weights));
        for ($i = 0; $i < $d; ++$i) {
            $progress->report($i / max(1, $d));
            [$own, $a] = [$codes[$i], $sizes[$i]];
            // Class and value of the first column in one number, so that one addition counts a row.
            $first = [];
            foreach ($own as $row => $code) {
                $first[] = $code < 0 ? -1 : ($classes[$row] * $a + $code);
            }
            for ($j = $i + 1; $j < $d; ++$j) {
                [$other, $b] = [$codes[$j], $sizes[$j]];
                $counts = array_fill(0, $many * $a * $b, 0);
                foreach ($other as $row => $code) {
                    if ($code >= 0 && $first[$row] >= 0) {
                        $counts[$first[$row] * $b + $code] += $isEqual ? 1 : $weights[$row];
                    }
                }
                $out[$i][$j] = $out[$j][$i] = self::told(array_values($counts), $many, $a, $b);
            }
        }

        return array_map(array_values(...), $out);
    }

    /** @param list<int|float> $counts by class, first and second value */
    private static function told(array $counts, int $many, int $a, int $b): float
    {
        $all = array_sum($counts);
        $sum = 0.0;
        for ($c = 0; $c < $many && $all > 0; ++$c) {
            $own = \array_slice($counts, $c * $a * $b, $a * $b);
            $n = array_sum($own);
            $rows = $columns = [];
            foreach ($own as $k => $count) {
                $rows[intdiv($k, $b)] = ($rows[intdiv($k, $b)] ?? 0) + $count;
                $columns[$k % $b] = ($columns[$k % $b] ?? 0) + $count;
            }
            foreach ($own as $k => $count) {
                if ($count > 0) {
                    $sum += $count / $all * log($count * $n / ($rows[intdiv($k, $b)] * $columns[$k % $b]));
                }
            }
        }

        return max(0.0, $sum);
    }

    /**
     * The heaviest tree, directed away from its root; of equal links the one whose columns come first by name, so that the order of
     * columns changes nothing.
     *
     * @param list<list<float>> $weights
     * @param list<string>      $names
     *
     * @return list<?int> the parent of each; null for the root
     */
    public static function tree(array $weights, array $names, int $root): array
    {
        $d = \count($names);
        $parents = array_fill(0, $d, null);
        $in = [$root => true];
        while (\count($in) < $d) {
            $best = null;
            foreach (array_keys($in) as $from) {
                for ($to = 0; $to < $d; ++$to) {
                    if (isset($in[$to])) {
                        continue;
                    }
                    $w = $weights[$from][$to];
                    $ends = [$names[$from], $names[$to]];
                    sort($ends, \SORT_STRING);
                    if (null === $best || $w > $best[0] + 1e-14 || ($w > $best[0] - 1e-14 && $ends < $best[3])) {
                        $best = [$w, $from, $to, $ends];
                    }
                }
            }
            if (null === $best) {
                break;
            }
            $parents[$best[2]] = $best[1];
            $in[$best[2]] = true;
        }

        return array_values($parents);
    }
}
