<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

/** Chances learned where classes were as frequent as in one set of rows, said for rows in which they are as frequent as in another. */
final class Prior
{
    /** By how much log-odds move: ln(pi / (1 - pi)) - ln(tau / (1 - tau)). */
    public static function shift(float $training, float $natural): float
    {
        return log($natural / (1 - $natural)) - log($training / (1 - $training));
    }

    /** Of an event; 0 and 1 stay what they are. */
    public static function corrected(float $chance, float $training, float $natural): float
    {
        $yes = $chance * $natural / $training;
        $no = (1 - $chance) * (1 - $natural) / (1 - $training);

        return $yes / ($yes + $no);
    }

    /**
     * @param list<float> $chances  of all classes of a row
     * @param list<float> $training shares of the classes where it was learned
     * @param list<float> $natural  shares of the classes where it is said
     *
     * @return list<float> of all classes, adding up to 1
     */
    public static function ofClasses(array $chances, array $training, array $natural): array
    {
        $moved = array_map(static fn (float $p, float $t, float $n): float => $p * $n / $t, $chances, $training, $natural);
        $all = array_sum($moved);

        return array_map(static fn (float $p): float => $p / $all, $moved);
    }
}
