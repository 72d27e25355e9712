<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

/** Many tests at once. */
final class Holm
{
    /**
     * P-values corrected so that the chance of even one false alarm stays as said (Holm 1979).
     *
     * @param array<array-key, float> $p
     *
     * @return array<array-key, float> in the same order
     */
    public static function adjusted(array $p): array
    {
        $sorted = $p;
        asort($sorted);
        $n = \count($p);
        $worst = 0.0;
        $out = $p;
        $i = 0;
        foreach ($sorted as $key => $value) {
            $worst = max($worst, min(1.0, ($n - $i++) * $value));
            $out[$key] = $worst;
        }

        return $out;
    }
}
