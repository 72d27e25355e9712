<?php

declare(strict_types=1);

namespace Dokimos\Core;

use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Random numbers that are the same wherever they are drawn: a stream for each seed and purpose, so that one use does not disturb another. */
final class Random
{
    /** @param int|string|null $seed null where only the purpose tells streams apart */
    public static function stream(int|string|null $seed, string $purpose): Randomizer
    {
        return new Randomizer(new Xoshiro256StarStar(hash('sha256', (null === $seed ? '' : $seed.':').$purpose, true)));
    }
}
