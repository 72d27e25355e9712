<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

use Dokimos\Core\Random;

/**
 * Which settings a search weighs, in order: all combinations, a sample of them, or random draws from the ranges. The same seed gives the same
 * list, and a longer one begins with the shorter.
 */
final readonly class Draws
{
    public const ALL = 'all combinations';
    public const SAMPLE = 'a sample of them';
    public const RANDOM = 'random draws';
    public const WAYS = [self::ALL, self::SAMPLE, self::RANDOM];
    public const MOST = 5000;
    /** Draws in vain before a space counts as used up. */
    private const IN_VAIN = 200;

    /**
     * @param non-empty-list<Space> $spaces
     * @param int                   $variants preparations that each setting meets
     * @param int                   $choices  choices of columns that each setting meets
     * @param ?int                  $tries    null for all combinations
     *
     * @return list<Candidate> no two alike
     *
     * @throws CannotSearch when there are more than a search weighs
     */
    public static function of(string $way, array $spaces, int $variants, int $choices, ?int $tries, int $seed): array
    {
        $all = self::count($spaces, $variants, $choices);
        if (self::ALL === $way) {
            if ($all > self::MOST) {
                throw new CannotSearch(\sprintf(
                    'These are %s combinations; up to %s are weighed. Take a sample of them, or list fewer values.',
                    number_format($all),
                    number_format(self::MOST),
                ));
            }

            return array_map(static fn (int $i): Candidate => self::at($i, $spaces, $variants, $choices), range(0, (int) $all - 1));
        }
        $tries ??= 0;
        if ($tries < 1 || $tries > self::MOST) {
            throw new CannotSearch(\sprintf('A search weighs 1 to %s settings.', number_format(self::MOST)));
        }

        return self::SAMPLE === $way ? self::sample(
            $all,
            $spaces,
            $variants,
            $choices,
            $tries,
            $seed,
        ) : self::random($spaces, $variants, $choices, $tries, $seed);
    }

    /** @param list<Space> $spaces */
    public static function count(array $spaces, int $variants, int $choices): float
    {
        return array_sum(array_map(static fn (Space $s): float => $s->count(), $spaces)) * $variants * $choices;
    }

    /**
     * @param non-empty-list<Space> $spaces
     *
     * @return list<Candidate>
     */
    private static function sample(float $all, array $spaces, int $variants, int $choices, int $tries, int $seed): array
    {
        $random = Random::stream($seed, 'search');
        $most = (int) min($all, \PHP_INT_MAX / 2);
        $seen = $out = [];
        while (\count($out) < min($tries, $most)) {
            $i = $random->getInt(0, $most - 1);
            if (!isset($seen[$i])) {
                $seen[$i] = true;
                $out[] = self::at($i, $spaces, $variants, $choices);
            }
        }

        return $out;
    }

    /**
     * @param non-empty-list<Space> $spaces
     *
     * @return list<Candidate>
     */
    private static function random(array $spaces, int $variants, int $choices, int $tries, int $seed): array
    {
        $random = Random::stream($seed, 'search');
        $seen = $out = [];
        for ($vain = 0; \count($out) < $tries && $vain < self::IN_VAIN;) {
            $space = $random->getInt(0, \count($spaces) - 1);
            $one = new Candidate(
                $space,
                $random->getInt(0, $variants - 1),
                $random->getInt(0, $choices - 1),
                $spaces[$space]->draw($random),
            );
            $key = serialize([$one->space, $one->variant, $one->choice, $one->settings]);
            if (isset($seen[$key])) {
                ++$vain;
                continue;
            }
            $seen[$key] = true;
            $vain = 0;
            $out[] = $one;
        }

        return $out;
    }

    /** @param non-empty-list<Space> $spaces */
    private static function at(int $place, array $spaces, int $variants, int $choices): Candidate
    {
        $each = $variants * $choices;
        $space = 0;
        foreach ($spaces as $space => $own) {
            $size = (int) $own->count() * $each;
            if ($place < $size) {
                break;
            }
            $place -= $size;
        }

        return new Candidate($space, intdiv($place, $choices) % $variants, $place % $choices, $spaces[$space]->at(intdiv($place, $each)));
    }
}
