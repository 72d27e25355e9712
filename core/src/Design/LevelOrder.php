<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/** The order in which the levels of a category are told: bins ("up to 3", "over 3 to 8", "over 8") by their numbers, everything else by bytes. */
final class LevelOrder
{
    /** The words of bins: core/src/Prepare/FittedBins.php. */
    private const BIN = '/^(up to|over) (-?[\d.]+(?:e[+-]?\d+)?)(?: to -?[\d.]+(?:e[+-]?\d+)?)?$/i';

    /**
     * @param list<string> $levels
     * @param bool         $natural numbers within texts count as numbers
     *
     * @return list<string> values in the order they are coded in
     */
    public static function of(array $levels, bool $natural = false): array
    {
        $from = [];
        foreach ($levels as $level) {
            if (1 === preg_match(self::BIN, $level, $found)) {
                $from[$level] = 'over' === strtolower($found[1]) ? (float) $found[2] : -\INF;
            }
        }
        $bins = \count($from) > 1;
        usort($levels, static fn (string $a, string $b): int => ($bins ? ($from[$a] ?? \INF) <=> ($from[$b] ?? \INF) : 0) ?: ($natural ? strnatcmp($a, $b) : 0) ?: strcmp($a, $b));

        return $levels;
    }
}
