<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Random\Randomizer;

/** Draws the cut of a column instead of comparing all (Geurts, Ernst and Wehenkel 2006). */
final readonly class Drawing
{
    public function __construct(private Randomizer $random)
    {
    }

    /** How many of so many levels in order go left. */
    public function place(int $levels): int
    {
        return $this->random->getInt(1, $levels - 1);
    }

    /** @param array<int, int|float> $w */
    public static function isLargerLeft(array $w, int $cut, float $weight): bool
    {
        $left = 0.0;
        foreach ($w as $k => $own) {
            $left += $k <= $cut ? $own : 0.0;
        }

        return 2 * $left > $weight;
    }

    /** @param array<int, int|float> $w */
    public function cut(array $w): int
    {
        $codes = [];
        foreach ($w as $k => $own) {
            if ($k > 0 && $own > 0) {
                $codes[] = $k;
            }
        }
        $n = \count($codes);

        return $n < 2 || null === $this->random ? -1 : $codes[$this->random->getInt(0, $n - 2)];
    }
}
