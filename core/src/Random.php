<?php

declare(strict_types=1);

namespace Dokimos\Core;

use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * Random numbers that are the same wherever they are drawn: a stream for each seed and purpose, so that one use does not disturb another.
 */
final class Random
{
    /** @param int|string|null $seed null where only the purpose tells streams apart */
    public static function stream(int|string|null $seed, string $purpose): Randomizer
    {
        return new Randomizer(new Xoshiro256StarStar(hash('sha256', (null === $seed ? '' : $seed.':').$purpose, true)));
    }

    /**
     * Numbers from 0 to below 1, each of 53 random bits: many at once, since one call for each is slow.
     *
     * @return list<float>
     */
    public static function shares(Randomizer $random, int $count): array
    {
        $out = [];
        foreach ($count > 0 ? (array) unpack('P*', $random->getBytes(8 * $count)) : [] as $bits) {
            \assert(\is_int($bits));
            $out[] = ($bits >> 11 & (1 << 53) - 1) / (1 << 53);
        }

        return $out;
    }

    public static function share(Randomizer $random): float
    {
        return self::shares($random, 1)[0];
    }
}
