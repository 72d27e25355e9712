<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/**
 * A number as a smooth curve that is straight beyond its outer knots: restricted cubic splines (Stone and Koo 1985; Harrell 2015, section
 * 2.4.5). The number itself is the first term; with k knots there are k - 2 more. Definition: docs/methods/design.md.
 */
final readonly class Bends
{
    /** Where knots lie, as quantiles of the training values. */
    private const QUANTILES = [3 => [0.1, 0.5, 0.9], 4 => [0.05, 0.35, 0.65, 0.95], 5 => [0.05, 0.275, 0.5, 0.725, 0.95]];

    /** @param list<float> $knots rising, at least three */
    private function __construct(public array $knots)
    {
    }

    /**
     * @param list<float> $values of training rows; those that are not finite are skipped
     *
     * @return ?self null where fewer than three knots differ
     */
    public static function learn(array $values, int $knots): ?self
    {
        $known = array_values(array_filter($values, is_finite(...)));
        if ([] === $known) {
            return null;
        }
        sort($known, \SORT_NUMERIC);
        $n = \count($known);
        // As many values as knots, at least: two have a straight line through them, and no curve.
        $different = 1;
        for ($i = 1; $i < $n && $different < $knots; ++$i) {
            $different += $known[$i] > $known[$i - 1] ? 1 : 0;
        }
        if ($different < 3) {
            return null;
        }
        $found = [];
        foreach (self::QUANTILES[min($knots, $different)] ?? self::QUANTILES[4] as $share) {
            $at = $share * ($n - 1);
            $low = (int) floor($at);
            $v = $known[$low] + ($at - $low) * (($known[$low + 1] ?? $known[$low]) - $known[$low]);
            if ([] === $found || $v > $found[\count($found) - 1]) {
                $found[] = $v;
            }
        }

        $spread = $found[\count($found) - 1] - $found[0];

        // What cannot be cubed does not bend.
        return \count($found) > 2 && $spread > 1e-80 && $spread < 1e80 ? new self($found) : null;
    }

    /** @param list<float|int> $knots */
    public static function at(array $knots): self
    {
        return new self(array_map(floatval(...), $knots));
    }

    /** How many terms there are beside the number itself. */
    public function more(): int
    {
        return \count($this->knots) - 2;
    }

    /** One of these terms, from 1 on, at a value. */
    public function of(int $term, float $x): float
    {
        $k = \count($this->knots);
        [$own, $last, $before] = [$this->knots[$term - 1], $this->knots[$k - 1], $this->knots[$k - 2]];
        $over = static fn (float $t, float $at): float => $at > $t ? ($at - $t) ** 3 : 0.0;
        $scale = ($last - $this->knots[0]) ** 2;
        if ($x <= $last) {
            return ($over($own, $x) - $over($before, $x) * ($last - $own) / ($last - $before)) / $scale;
        }
        // Beyond the last knot it goes on straight: cubes of large numbers would leave nothing of their difference.
        $slope = 3 * (($last - $own) ** 2 - ($last - $before) * ($last - $own)) / $scale;

        return ($over($own, $last) - $over($before, $last) * ($last - $own) / ($last - $before)) / $scale + $slope * ($x - $last);
    }
}
