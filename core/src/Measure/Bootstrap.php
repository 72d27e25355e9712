<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Random;
use Random\Randomizer;

/**
 * Intervals of figures without a formula for their error: the records are drawn again, each with a Poisson count of mean 1 (Efron and
 * Tibshirani 1993, chapter 13; Poisson counts: Hanley and MacGibbon 2006). Seeded, so the same records have the same interval.
 */
final class Bootstrap
{
    private const DRAWS = 400;
    /** Neighbors in rank are drawn together beyond so many places: the figures move in their fourth digit. */
    private const PLACES = 4000;
    /** From this mean on a normal draw stands in for the Poisson one. */
    private const NORMAL = 30;
    private const TOP = 0x7FFFFFFF;

    private readonly Randomizer $random;
    /** @var array<int, list<int>> by mean: draws up to this give 0, 1, 2, ... */
    private array $steps = [];

    private function __construct()
    {
        $this->random = Random::stream(null, 'bootstrap');
    }

    /**
     * Average precision by the percentiles of its draws. The Kolmogorov-Smirnov distance has the interval of a difference of two shares
     * (Newcombe 1998, method 10) where it is greatest; being a maximum it is too large, by about as much as drawing again raises it,
     * and its lower end is lowered by that.
     *
     * @param list<array{float, float, float}> $groups distinct scores, highest first: score, events, others
     *
     * @return array{averagePrecision: Interval, ks: Interval}
     */
    public static function ranking(array $groups): array
    {
        $places = self::merged($groups);
        $own = self::ranked($places);
        $draw = new self();
        $precision = [];
        $raised = 0.0;
        for ($k = 0; $k < self::DRAWS; ++$k) {
            $drawn = [];
            foreach ($places as [$events, $others]) {
                $drawn[] = [$draw->poisson($events), $draw->poisson($others)];
            }
            $figures = self::ranked($drawn);
            $precision[] = $figures[0];
            $raised += ($figures[1] - $own[1]) / self::DRAWS;
        }
        [$low, $high] = self::ends($precision);
        [, $distance, $caught, $all, $vain, $rest] = $own;
        $a = Interval::wilson($caught, $all);
        $b = Interval::wilson($vain, $rest);
        $below = sqrt(($a->value - $a->low) ** 2 + ($b->high - $b->value) ** 2) + max(0.0, $raised);
        $above = sqrt(($a->high - $a->value) ** 2 + ($b->value - $b->low) ** 2);

        return [
            'averagePrecision' => 0 === $all ? new Interval(null) : new Interval($own[0], min($own[0], $low), max($own[0], $high)),
            'ks' => new Interval($distance, max(0.0, $distance - $below), min(1.0, $distance + $above)),
        ];
    }

    /**
     * Figures of a confusion matrix, by the percentiles of draws of its cells.
     *
     * @param list<list<int>> $confusion rows by what came, columns by what was said
     *
     * @return array{balancedAccuracy: Interval, kappa: Interval}
     */
    public static function confusion(array $confusion): array
    {
        $own = self::agreement($confusion);
        $draw = new self();
        $balanced = $kappa = [];
        for ($k = 0; $k < self::DRAWS; ++$k) {
            [$balanced[], $kappa[]] = self::agreement(array_map(static fn (array $row): array => array_map($draw->poisson(...), $row), $confusion));
        }
        $interval = static function (float $value, array $draws): Interval {
            /** @var list<float> $draws */
            [$low, $high] = self::ends($draws);

            return new Interval($value, min($value, $low), max($value, $high));
        };

        return ['balancedAccuracy' => $interval($own[0], $balanced), 'kappa' => $interval($own[1], $kappa)];
    }

    /**
     * @param list<list<int>> $confusion
     *
     * @return array{float, float} mean recall of the classes, agreement beyond chance
     */
    public static function agreement(array $confusion): array
    {
        $all = array_sum(array_map(array_sum(...), $confusion));
        $recall = $right = $chance = 0.0;
        foreach ($confusion as $c => $row) {
            $came = array_sum($row);
            $recall += $came > 0 ? $row[$c] / $came : 0.0;
            $right += $row[$c];
            $chance += $came * array_sum(array_column($confusion, $c));
        }
        $chance = $all > 0 ? $chance / $all ** 2 : 1.0;

        return [$recall / max(1, \count($confusion)), $chance < 1.0 ? ($right / $all - $chance) / (1 - $chance) : 0.0];
    }

    /**
     * @param list<array{float, float, float}> $groups
     *
     * @return list<array{int, int}> events and others by place, highest first
     */
    private static function merged(array $groups): array
    {
        $total = 0.0;
        foreach ($groups as [, $events, $others]) {
            $total += $events + $others;
        }
        $least = $total / self::PLACES;
        $places = [];
        $with = $without = 0;
        foreach ($groups as [, $events, $others]) {
            $with += (int) $events;
            $without += (int) $others;
            if ($with + $without >= $least) {
                $places[] = [$with, $without];
                $with = $without = 0;
            }
        }
        if ($with + $without > 0) {
            $places[] = [$with, $without];
        }

        return $places;
    }

    /**
     * @param list<array{int, int}> $places
     *
     * @return array{float, float, int, int, int, int} average precision, greatest distance of both shares reached, and there: events reached and in all, others reached and in all
     */
    private static function ranked(array $places): array
    {
        $all = $rest = 0;
        foreach ($places as [$events, $others]) {
            $all += $events;
            $rest += $others;
        }
        $precision = $distance = 0.0;
        $caught = $vain = $atCaught = $atVain = 0;
        foreach ($places as [$events, $others]) {
            $caught += $events;
            $vain += $others;
            if ($events > 0) {
                $precision += $events / $all * $caught / ($caught + $vain);
            }
            $apart = ($all > 0 ? $caught / $all : 0.0) - ($rest > 0 ? $vain / $rest : 0.0);
            if ($apart > $distance) {
                [$distance, $atCaught, $atVain] = [$apart, $caught, $vain];
            }
        }

        return [$precision, $distance, $atCaught, $all, $atVain, $rest];
    }

    private function poisson(int $mean): int
    {
        if (0 === $mean) {
            return 0;
        }
        if ($mean >= self::NORMAL) {
            $share = static fn (int $u): float => ($u + 1) / (self::TOP + 2);
            $normal = sqrt(-2 * log($share($this->random->getInt(0, self::TOP)))) * cos(2 * \M_PI * $share($this->random->getInt(0, self::TOP)));

            return max(0, (int) round($mean + sqrt($mean) * $normal));
        }
        $steps = $this->steps[$mean] ??= self::steps($mean);
        $u = $this->random->getInt(0, self::TOP);
        $k = 0;
        while ($u > $steps[$k]) {
            ++$k;
        }

        return $k;
    }

    /** @return list<int> */
    private static function steps(int $mean): array
    {
        $chance = exp(-$mean);
        $sum = 0.0;
        $steps = [];
        for ($k = 0; $sum < 1 - 1e-10; ++$k) {
            $sum += $chance;
            $steps[] = (int) floor($sum * self::TOP);
            $chance *= $mean / ($k + 1);
        }
        $steps[] = self::TOP;

        return $steps;
    }

    /**
     * @param list<float> $draws
     *
     * @return array{float, float} the 2.5 % and 97.5 % points
     */
    private static function ends(array $draws): array
    {
        sort($draws);
        $n = \count($draws);

        return [$draws[(int) floor(0.025 * ($n - 1))], $draws[(int) ceil(0.975 * ($n - 1))]];
    }
}
