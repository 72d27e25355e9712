<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** Pieces of sentences. */
final class Words
{
    /** @param list<string> $names */
    public static function listed(array $names, int $most = 4, string $and = 'and'): string
    {
        $count = \count($names);
        if ($count > $most) {
            return implode(', ', \array_slice($names, 0, $most - 1)).\sprintf(' %s %d more', $and, $count - $most + 1);
        }
        $last = array_pop($names);

        return [] === $names ? (string) $last : implode(', ', $names).' '.$and.' '.$last;
    }

    public static function count(int $n, string $one): string
    {
        return number_format($n).' '.(1 === $n ? $one : $one.'s');
    }

    public static function share(float $share): string
    {
        return self::number(round(100 * $share, 1)).'%';
    }

    /** A number with at most four significant digits, as read in a sentence. */
    public static function number(float $value): string
    {
        if (0.0 === $value || abs($value) >= 1000 && abs($value) < 1e15) {
            return number_format($value, $value === floor($value) ? 0 : 1);
        }

        return (string) (float) \sprintf('%.4g', $value);
    }
}
