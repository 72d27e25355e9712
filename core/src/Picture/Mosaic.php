<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Table\CodedColumn;

/** Two categories: every pair of values with its records, and what independence would give. */
final class Mosaic
{
    private const MOST = 12;

    /**
     * @return array{list<array<string, mixed>>, int} by the values across and up, the most frequent first; rarer values are left out
     */
    public static function parts(CodedColumn $x, CodedColumn $y, Told $told): array
    {
        $both = [];
        $across = $up = [];
        foreach ($x->codes as $row => $code) {
            $other = $y->codes[$row];
            if ($code >= 0 && $other >= 0) {
                $both[$code][$other][] = $row;
                $across[$code] = ($across[$code] ?? 0) + 1;
                $up[$other] = ($up[$other] ?? 0) + 1;
            }
        }
        $n = array_sum($across);
        arsort($across);
        arsort($up);
        $out = [];
        foreach (\array_slice($across, 0, self::MOST, true) as $i => $ofX) {
            foreach (\array_slice($up, 0, self::MOST, true) as $j => $ofY) {
                $rows = $both[$i][$j] ?? [];
                $out[] = ['x' => $x->levels[$i], 'y' => $y->levels[$j], 'records' => \count($rows), 'expected' => $ofX * $ofY / $n] + $told->share($rows);
            }
        }

        return [$out, $n];
    }
}
