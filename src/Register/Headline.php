<?php

declare(strict_types=1);

namespace App\Register;

/**
 * The finding that heads a column's picture: the cut, or the value, that tells the event's share apart most clearly. Said only when the two
 * shares differ by more than four standard errors, since the clearest of many is looked for.
 */
final class Headline
{
    private const ERRORS = 4.0;

    /** @param list<DistributionPart> $parts */
    public static function of(string $column, string $event, array $parts, bool $ordered): ?string
    {
        $judged = array_sum(array_map(static fn (DistributionPart $p) => $p->judged, $parts));
        $events = array_sum(array_map(static fn (DistributionPart $p) => (int) $p->events, $parts));
        $best = self::ERRORS;
        $said = null;
        $n = $k = 0;
        foreach ($parts as $i => $part) {
            if ($ordered) {
                // Below this part against this part and above.
                $clear = 0 === $i ? 0.0 : self::distance($k, $n, $events - $k, $judged - $n);
                $sentence = static fn (): string => \sprintf(
                    '“%s” in %s from %s on, in %s below',
                    $event,
                    self::percent($events - $k, $judged - $n),
                    $part->label,
                    self::percent($k, $n),
                );
            } else {
                $clear = self::distance((int) $part->events, $part->judged, $events - (int) $part->events, $judged - $part->judged);
                $sentence = static fn (): string => \sprintf(
                    '“%s” in %s of %s, in %s of the others',
                    $event,
                    self::percent((int) $part->events, $part->judged),
                    $part->label,
                    self::percent($events - (int) $part->events, $judged - $part->judged),
                );
            }
            if ($clear > $best) {
                $best = $clear;
                $said = $sentence();
            }
            $n += $part->judged;
            $k += (int) $part->events;
        }

        return $said;
    }

    /** The difference of two shares in standard errors, with the shares pooled. */
    private static function distance(int $k, int $n, int $l, int $m): float
    {
        if ($n < 20 || $m < 20) {
            return 0.0;
        }
        $pooled = ($k + $l) / ($n + $m);
        $error = sqrt($pooled * (1 - $pooled) * (1 / $n + 1 / $m));

        return $error > 0.0 ? abs($k / $n - $l / $m) / $error : 0.0;
    }

    private static function percent(int $k, int $n): string
    {
        return \sprintf('%.1f%%', 100 * $k / max(1, $n));
    }
}
