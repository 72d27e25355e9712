<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Math\Distribution\NoncentralChiSquare;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Profile\Chance;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** Measures a pair of columns as their kinds want it. */
final class Strength
{
    public static function of(string $first, Column $a, string $second, Column $b): ?Pair
    {
        return self::between(Operand::of($first, $a), Operand::of($second, $b));
    }

    /** Null when either does not vary where both are present, or is text. */
    public static function between(Operand $a, Operand $b): ?Pair
    {
        if (null !== $a->numbers && null !== $b->numbers) {
            return self::byRank($a, $b);
        }
        if (null !== $a->codes && null !== $b->codes) {
            return self::byTable($a->name, $a->codes, $b->name, $b->codes);
        }
        if (null !== $a->codes && null !== $b->numbers) {
            return self::byGroups($a->name, $b->name, $a->codes, $b->numbers);
        }

        return null !== $b->codes && null !== $a->numbers ? self::byGroups($a->name, $b->name, $b->codes, $a->numbers) : null;
    }

    /**
     * Kernel: how alike the places of two columns are, over the rows that have both. Each column is ranked once for all its pairs, so that
     * where values are missing this is near the rank correlation and not the same: for choosing among millions of pairs.
     *
     * @param list<float> $x as Operand::places() gives them
     * @param list<float> $y
     */
    public static function near(array $x, array $y): ?float
    {
        $n = 0;
        $sx = $sy = $sxx = $syy = $sxy = 0.0;
        foreach ($x as $row => $a) {
            $b = $y[$row];
            if (0.0 === $a || 0.0 === $b) {
                continue;
            }
            ++$n;
            $sx += $a;
            $sy += $b;
            $sxx += $a * $a;
            $syy += $b * $b;
            $sxy += $a * $b;
        }
        $spread = ($n * $sxx - $sx * $sx) * ($n * $syy - $sy * $sy);

        return $spread > 0.0 ? ($n * $sxy - $sx * $sy) / sqrt($spread) : null;
    }

    /** The strength alone, without p and interval: for looking through very many pairs. */
    public static function rough(Operand $a, Operand $b): ?float
    {
        if (null !== $a->numbers && null !== $b->numbers) {
            $n = 0;
            foreach ($a->numbers as $row => $v) {
                $n += is_nan($v) || is_nan($b->numbers[$row]) ? 0 : 1;
            }

            return Association::complete(self::used($a->ranksBeside($b), $n), self::used($b->ranksBeside($a), $n))['r'];
        }

        return null !== $a->codes && null !== $b->codes ? Association::categories($a->codes, $b->codes)['cramers_v_corrected'] : null;
    }

    /**
     * Numbers, dates as seconds, yes/no as 1 and 0; null for other kinds.
     *
     * @return ?list<float>
     */
    public static function numbers(Column $column): ?array
    {
        if ($column instanceof NumberColumn) {
            return $column->values;
        }
        if ($column instanceof DateColumn) {
            return array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds);
        }
        if (!$column instanceof CodedColumn || Kind::YesNo !== $column->kind()) {
            return null;
        }
        // "yes" is the higher one, however the file spells it.
        $yes = array_map(static fn (string $level) => true === CellParser::yesNo($level) ? 1.0 : 0.0, $column->levels);

        return array_map(static fn (int $code) => $code < 0 ? \NAN : $yes[$code], $column->codes);
    }

    private static function byRank(Operand $a, Operand $b): ?Pair
    {
        $x = $y = [];
        $others = $b->numbers ?? [];
        foreach ($a->numbers ?? [] as $row => $v) {
            $w = $others[$row];
            if (!is_nan($v) && !is_nan($w)) {
                $x[] = $v;
                $y[] = $w;
            }
        }
        $n = \count($x);
        $ranks = Association::complete(self::used($a->ranksBeside($b), $n), self::used($b->ranksBeside($a), $n));
        $rho = $ranks['r'];
        if (null === $rho) {
            return null;
        }
        [$first, $second, $p] = [$a->name, $b->name, $ranks['p']];
        // Fisher's z with the variance of Bonett and Wright (2000).
        $half = $n > 3 && abs($rho) < 1.0 ? Normal::Z95 * sqrt((1.0 + $rho * $rho / 2.0) / ($n - 3)) : null;

        return new Pair($first, $second, 'rank correlation', $rho, null === $half ? null : tanh(atanh($rho) - $half), null === $half ? null : tanh(atanh($rho) + $half), Chance::ofNumbers($x, $y) ?? $p ?? 1.0, Association::complete($x, $y)['r'], $n, 1.0);
    }

    /**
     * Ranks of the rows where both are present; 0 is no rank.
     *
     * @param list<float> $ranks
     *
     * @return list<float>
     */
    private static function used(array $ranks, int $n): array
    {
        return $n === \count($ranks) ? $ranks : array_values(array_filter($ranks, static fn (float $r) => 0.0 !== $r));
    }

    /**
     * @param list<int> $a
     * @param list<int> $b
     */
    private static function byTable(string $first, array $a, string $second, array $b): ?Pair
    {
        $out = Association::categories($a, $b);
        if (null === $out['chi2'] || null === $out['cramers_v'] || null === $out['cramers_v_corrected']) {
            return null;
        }
        // V² is chi-square over n and the smaller dimension; the interval is that of the noncentrality (Smithson 2003).
        $scale = $out['cramers_v'] > 0.0 ? $out['chi2'] / $out['cramers_v'] ** 2 : 1.0;
        [$low, $high] = self::interval($out['chi2'], $out['df'], $scale);

        return new Pair($first, $second, "Cramér's V", $out['cramers_v_corrected'], min($low, $out['cramers_v_corrected']), max($high, $out['cramers_v_corrected']), Chance::ofCategories($a, $b) ?? 1.0, null, $out['n'], 1.0);
    }

    /**
     * @param list<int>   $codes
     * @param list<float> $values
     */
    private static function byGroups(string $first, string $second, array $codes, array $values): ?Pair
    {
        $out = Association::groups($codes, $values);
        if (null === $out['eta_squared']) {
            return null;
        }
        // Corrected for what chance gives to many groups (Kelley 1935), as Cramér's V is.
        $ratio = sqrt(max(0.0, 1.0 - (1.0 - $out['eta_squared']) * ($out['n'] - 1) / $out['df2']));
        // Nothing varies within the groups.
        if (null === $out['f']) {
            return new Pair($first, $second, 'correlation ratio', $ratio, null, null, Chance::ofGroups($codes, $values) ?? 1.0, null, $out['n'], 1.0);
        }
        // With as many records as tables have, df1 times F is nearly a noncentral chi-square; eta² = λ / (λ + n).
        $carry = static fn (float $lambda): float => sqrt($lambda / ($lambda + $out['n']));
        $low = $carry(NoncentralChiSquare::noncentralityFor($out['df1'] * $out['f'], $out['df1'], 0.975));
        $high = $carry(NoncentralChiSquare::noncentralityFor($out['df1'] * $out['f'], $out['df1'], 0.025));

        return new Pair($first, $second, 'correlation ratio', $ratio, min($low, $ratio), max($high, $ratio), Chance::ofGroups($codes, $values) ?? 1.0, null, $out['n'], 1.0);
    }

    /** @return array{float, float} */
    private static function interval(float $chi2, int $df, float $scale): array
    {
        $carry = static fn (float $lambda): float => min(1.0, sqrt($lambda / $scale));

        return [$carry(NoncentralChiSquare::noncentralityFor($chi2, $df, 0.975)), $carry(NoncentralChiSquare::noncentralityFor($chi2, $df, 0.025))];
    }
}
