<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/**
 * Intervals of numbers and sets of classes that hold what came in a promised share of records, whatever the model (Vovk, Gammerman and
 * Shafer
 * 2005; Barber et al. 2021). Definition: docs/methods/how-sure.md.
 */
final class Conformal
{
    /** Sums that are equal in decimals count as equal. */
    private const EQUAL = 1e-9;
    public const LEAST_AMBIGUOUS = 'least ambiguous';
    public const ADAPTIVE = 'adaptive';

    /** Which of so many scores, from the smallest: ceil((n + 1) level), in whole numbers since rounding may add one. */
    public static function rank(int $scores, int $percent): int
    {
        return intdiv(($scores + 1) * $percent + 99, 100);
    }

    /**
     * @param list<float> $scores of records that the model had not seen
     *
     * @return ?float null where there are too few for the level: nothing is excluded
     */
    public static function quantile(array $scores, int $percent): ?float
    {
        $rank = self::rank(\count($scores), $percent);
        if ($rank > \count($scores)) {
            return null;
        }
        sort($scores);

        return $scores[$rank - 1];
    }

    /**
     * Of a new record's number, from fold models: what each held record missed by, laid around what the model without its fold says (CV+).
     *
     * @param list<float> $says   for the new record: per held record what the model without its fold says
     * @param list<float> $misses absolute error of each held record
     *
     * @return array{?float, ?float} low and high; null where the level asks for more records
     */
    public static function crossed(array $says, array $misses, int $percent): array
    {
        $n = \count($misses);
        $low = array_map(static fn (float $s, float $m): float => $s - $m, $says, $misses);
        $high = array_map(static fn (float $s, float $m): float => $s + $m, $says, $misses);
        sort($low);
        sort($high);
        $from = intdiv(($n + 1) * (100 - $percent), 100);
        $to = self::rank($n, $percent);

        return [$from < 1 ? null : $low[$from - 1], $to > $n ? null : $high[$to - 1]];
    }

    /**
     * How unlikely a class is for a record, by its chances: 1 less its chance, or the sum of the chances down to and including it.
     *
     * @param array<string, float> $chances by class
     *
     * @return array<string, float> by class, in byte order
     */
    public static function scores(array $chances, string $way): array
    {
        ksort($chances, \SORT_STRING);
        if (self::LEAST_AMBIGUOUS === $way) {
            return array_map(static fn (float $p): float => 1 - $p, $chances);
        }
        $names = array_map(strval(...), array_keys($chances));
        // Stable: of equal chances the byte order of the names stays.
        usort($names, static fn (string $a, string $b): int => $chances[$b] <=> $chances[$a]);
        $sum = 0.0;
        $scores = [];
        foreach ($names as $name) {
            $scores[$name] = $sum += $chances[$name];
        }
        ksort($scores, \SORT_STRING);

        return $scores;
    }

    /**
     * @param array<string, float> $chances  of a new record
     * @param ?float               $quantile of the scores that classes had which came; null = nothing is excluded
     *
     * @return list<string> in byte order; may be empty
     */
    public static function set(array $chances, ?float $quantile, string $way): array
    {
        $scores = self::scores($chances, $way);

        return array_values(array_map(strval(...), array_keys(
            array_filter($scores, static fn (float $s): bool => null === $quantile || $s <= $quantile + self::EQUAL),
        )));
    }

    /**
     * The same, with the likeliest class where nothing is left.
     *
     * @param array<string, float> $chances
     *
     * @return list<string>
     */
    public static function filled(array $chances, ?float $quantile, string $way): array
    {
        $set = self::set($chances, $quantile, $way);
        if ([] !== $set || [] === $chances) {
            return $set;
        }
        ksort($chances, \SORT_STRING);

        return [(string) array_search(max($chances), $chances, true)];
    }
}
