<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** What log loss takes a row for: −ln of the chance given to what happened, kept off 0 and 1 by 1e-15. */
final class Surprise
{
    private const LEAST = 1e-15;

    public static function at(float $chance): float
    {
        return -log(max(self::LEAST, min(1.0 - self::LEAST, $chance)));
    }
}
