<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Math\Distribution\NoncentralChiSquare;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** Measures a pair of columns as their kinds want it. */
final class Strength
{
    /** Null when either does not vary where both are present, or is text. */
    public static function of(string $first, Column $a, string $second, Column $b): ?Pair
    {
        $x = self::numbers($a);
        $y = self::numbers($b);
        if (null !== $x && null !== $y) {
            return self::byRank($first, $x, $second, $y);
        }
        if ($a instanceof CodedColumn && $b instanceof CodedColumn) {
            return self::byTable($first, $a->codes, $second, $b->codes);
        }
        if ($a instanceof CodedColumn && null !== $y) {
            return self::byGroups($first, $second, $a->codes, $y);
        }

        return $b instanceof CodedColumn && null !== $x ? self::byGroups($first, $second, $b->codes, $x) : null;
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

    /**
     * @param list<float> $x
     * @param list<float> $y
     */
    private static function byRank(string $first, array $x, string $second, array $y): ?Pair
    {
        ['n' => $n, 'rho' => $rho, 'p' => $p] = Association::spearman($x, $y);
        if (null === $rho) {
            return null;
        }
        // Fisher's z with the variance of Bonett and Wright (2000).
        $half = $n > 3 && abs($rho) < 1.0 ? Normal::Z95 * sqrt((1.0 + $rho * $rho / 2.0) / ($n - 3)) : null;

        return new Pair($first, $second, 'rank correlation', $rho, null === $half ? null : tanh(atanh($rho) - $half), null === $half ? null : tanh(atanh($rho) + $half), $p ?? 1.0, Association::pearson($x, $y)['r'], $n, 1.0);
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

        return new Pair($first, $second, "Cramér's V", $out['cramers_v_corrected'], min($low, $out['cramers_v_corrected']), max($high, $out['cramers_v_corrected']), $out['p'] ?? 1.0, null, $out['n'], 1.0);
    }

    /**
     * @param list<int>   $codes
     * @param list<float> $values
     */
    private static function byGroups(string $first, string $second, array $codes, array $values): ?Pair
    {
        $out = Association::groups($codes, $values);
        if (null === $out['eta_squared'] || null === $out['f']) {
            return null;
        }
        // Corrected for what chance gives to many groups (Kelley 1935), as Cramér's V is.
        $ratio = sqrt(max(0.0, 1.0 - (1.0 - $out['eta_squared']) * ($out['n'] - 1) / $out['df2']));
        if (!is_finite($out['f'])) {
            return new Pair($first, $second, 'correlation ratio', $ratio, null, null, 0.0, null, $out['n'], 1.0);
        }
        // With as many records as tables have, df1 times F is nearly a noncentral chi-square; eta² = λ / (λ + n).
        $carry = static fn (float $lambda): float => sqrt($lambda / ($lambda + $out['n']));
        $low = $carry(NoncentralChiSquare::noncentralityFor($out['df1'] * $out['f'], $out['df1'], 0.975));
        $high = $carry(NoncentralChiSquare::noncentralityFor($out['df1'] * $out['f'], $out['df1'], 0.025));

        return new Pair($first, $second, 'correlation ratio', $ratio, min($low, $ratio), max($high, $ratio), $out['p'] ?? 1.0, null, $out['n'], 1.0);
    }

    /** @return array{float, float} */
    private static function interval(float $chi2, int $df, float $scale): array
    {
        $carry = static fn (float $lambda): float => min(1.0, sqrt($lambda / $scale));

        return [$carry(NoncentralChiSquare::noncentralityFor($chi2, $df, 0.975)), $carry(NoncentralChiSquare::noncentralityFor($chi2, $df, 0.025))];
    }
}
