<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Random;
use Random\Randomizer;

/**
 * How far the return of a list may lie from what is expected: draws over how well chances hold (a line through their log-odds, learned on
 * records the models had not seen, with its own uncertainty), over how often an action works, and over what comes of each record. Of long
 * lists outcomes are drawn for bands of records. Definition: docs/methods/action-list.md (decision 55).
 */
final readonly class ReturnDraws
{
    public const DRAWS = 2000;
    /** Up to so many records each has an outcome of its own in every draw. */
    private const SINGLE = 250;
    private const BANDS = 200;
    private const TAIL = 0.05;

    /**
     * @param float $low  5 of 100 draws return less
     * @param float $high 5 of 100 draws return more
     * @param float $loss share of draws that return less than nothing
     */
    private function __construct(
        public float $low,
        public float $high,
        public float $loss,
        public float $preventedLow,
        public float $preventedHigh,
    ) {
    }

    /**
     * @param list<int>           $rows  acted on
     * @param array{float, float} $works between which shares an action works; its own share lies in the middle of them by chance
     * @param ?Sigmoid            $holds the line fitted to chances and outcomes; null = chances are taken as they are
     */
    public static function of(EventTerms $terms, array $rows, array $works, ?Sigmoid $holds, int|string $seed): self
    {
        $random = Random::stream($seed, 'return');
        $odds = array_map(static fn (int $r): float => Sigmoid::logOdds($terms->chances[$r]), $rows);
        $values = array_map(static fn (int $r): float => $terms->values[$r], $rows);
        $bands = \count($rows) <= self::SINGLE ? null : self::bands($odds, $values, $terms->economics);
        $returns = $prevented = [];
        for ($k = 0; $k < self::DRAWS; ++$k) {
            [$a, $b] = self::line($holds, $random);
            $economics = $terms->economics->working(self::share($terms->economics->works, $works, $random));
            [$returns[], $prevented[]] = null === $bands
                ? self::single($odds, $values, $economics, $a, $b, $random)
                : self::banded($bands, \count($rows), $economics, $a, $b, $random);
        }
        sort($returns);
        sort($prevented);
        $low = (int) floor(self::TAIL * self::DRAWS);
        $high = self::DRAWS - 1 - $low;

        return new self(
            $returns[$low],
            $returns[$high],
            \count(array_filter($returns, static fn (float $r): bool => $r < 0.0)) / self::DRAWS,
            $prevented[$low],
            $prevented[$high],
        );
    }

    /** @return array{float, float} intercept and slope, as they might be */
    private static function line(?Sigmoid $holds, Randomizer $random): array
    {
        if (null === $holds) {
            return [0.0, 1.0];
        }
        $first = self::normal($random);
        $second = self::normal($random);
        $shared = $holds->errorA > 0.0 ? $holds->covariance / $holds->errorA : 0.0;

        return [
            $holds->a + $holds->errorA * $first,
            $holds->b + $shared * $first + sqrt(max(0.0, $holds->errorB ** 2 - $shared ** 2)) * $second,
        ];
    }

    private static function normal(Randomizer $random): float
    {
        return (new Normal())->quantile(max(1e-12, Random::share($random)));
    }

    /**
     * Half of the draws lie below the share that is thought, half above, evenly on either side.
     *
     * @param array{float, float} $works
     */
    private static function share(float $middle, array $works, Randomizer $random): float
    {
        $u = 2.0 * Random::share($random) - 1.0;

        return $u < 0.0 ? $middle + $u * ($middle - $works[0]) : $middle + $u * ($works[1] - $middle);
    }

    /**
     * @param list<float> $odds
     * @param list<float> $values
     *
     * @return array{float, float} return, and how many events were prevented
     */
    private static function single(array $odds, array $values, Economics $economics, float $a, float $b, Randomizer $random): array
    {
        $return = -$economics->cost * \count($odds);
        $prevented = 0.0;
        $shares = Random::shares($random, \count($odds));
        foreach ($odds as $i => $s) {
            $chance = 1.0 / (1.0 + exp(-($a + $b * $s)));
            $u = $shares[$i];
            if ($u >= $chance) {
                $return -= $economics->costInVain;
            } elseif ($u < $chance * $economics->works) {
                $return += $economics->prevented($values[$i]);
                ++$prevented;
            }
        }

        return [$return, $prevented];
    }

    /**
     * Records of like chance, with what their values sum to.
     *
     * @param list<float> $odds
     * @param list<float> $values
     *
     * @return list<array{float, int, float, float}> mean log-odds, records, and the sum and squares of what a prevented event brings
     */
    private static function bands(array $odds, array $values, Economics $economics): array
    {
        asort($odds, \SORT_NUMERIC);
        $bands = [];
        foreach (array_chunk(array_keys($odds), max(1, (int) ceil(\count($odds) / self::BANDS))) as $rows) {
            $sum = $brought = $square = 0.0;
            foreach ($rows as $i) {
                $own = $economics->prevented($values[$i]);
                $sum += $odds[$i];
                $brought += $own;
                $square += $own * $own;
            }
            $bands[] = [$sum / \count($rows), \count($rows), $brought, $square];
        }

        return $bands;
    }

    /**
     * @param list<array{float, int, float, float}> $bands
     *
     * @return array{float, float} return, and how many events were prevented
     */
    private static function banded(array $bands, int $n, Economics $economics, float $a, float $b, Randomizer $random): array
    {
        $mean = -$economics->cost * $n;
        $variance = $count = $countVariance = 0.0;
        foreach ($bands as [$s, $rows, $brought, $square]) {
            $p = 1.0 / (1.0 + exp(-($a + $b * $s)));
            $q = $p * $economics->works;
            $vain = (1.0 - $p) * $economics->costInVain;
            $mean += $q * $brought - $rows * $vain;
            $variance += $q * $square + $rows * (1.0 - $p) * $economics->costInVain ** 2
                - $q * $q * $square + 2.0 * $q * $brought * $vain - $rows * $vain ** 2;
            $count += $rows * $q;
            $countVariance += $rows * $q * (1.0 - $q);
        }
        $u = self::normal($random);

        return [$mean + sqrt(max(0.0, $variance)) * $u, max(0.0, $count + sqrt($countVariance) * $u)];
    }
}
