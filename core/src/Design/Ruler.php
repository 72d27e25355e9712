<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/**
 * Finds where numbers fall among ascending cuts. Many are found by how far they lie from the first cut, in equal stretches: as a number's
 * stretch never falls when the number rises, all cuts of lower stretches are below it, and all of higher ones are not.
 */
final readonly class Ruler
{
    /** Stretches for each cut, and at most: more no longer lie in the processor's cache. */
    private const EACH = 4;
    private const MOST = 32_768;

    /**
     * @param list<float> $cuts
     * @param list<int>   $starts of each stretch how many cuts lie before it, with all of them at the end; empty where there are none
     */
    private function __construct(private array $cuts, private float $least, private float $times, private array $starts)
    {
    }

    /**
     * @param list<float> $cuts  ascending
     * @param int         $asked how many numbers will be looked for: of few, laying out stretches would take longer
     */
    public static function of(array $cuts, int $asked): self
    {
        $most = \count($cuts);
        $many = min(self::EACH * $most, self::MOST);
        $width = $most > 1 ? $cuts[$most - 1] - $cuts[0] : 0.0;
        $times = $width > 0.0 ? ($many - 1) / $width : 0.0;
        // Cuts so far apart, or so near, that no number tells how many stretches there are in a unit.
        if ($asked < $many || $times <= 0.0 || !is_finite($times) || !is_finite($width)) {
            return new self($cuts, 0.0, 0.0, []);
        }
        $starts = array_fill(0, $many + 1, 0);
        foreach ($cuts as $cut) {
            ++$starts[min($many - 1, (int) (($cut - $cuts[0]) * $times)) + 1];
        }
        $before = 0;
        foreach ($starts as $g => $here) {
            $starts[$g] = $before += $here;
        }

        return new self($cuts, $cuts[0], $times, array_values($starts));
    }

    /**
     * Hot loop: one binary search per number, within its stretch.
     *
     * @param list<float> $values
     * @param ?list<int>  $rows   null = all
     *
     * @return list<int> one more than the cuts below each number; 0 = missing
     */
    public function codes(array $values, ?array $rows): array
    {
        $cuts = $this->cuts;
        $least = $this->least;
        $times = $this->times;
        $starts = $this->starts;
        $most = \count($cuts);
        $last = \count($starts) - 2;
        $out = [];
        foreach ($rows ?? array_keys($values) as $row) {
            $v = $values[$row];
            if ($v !== $v) {
                $out[] = 0;
                continue;
            }
            $from = 0;
            $to = $most;
            if ($last >= 0) {
                $d = ($v - $least) * $times;
                $g = $d > 0.0 ? ($d < $last ? (int) $d : $last) : 0;
                $from = $starts[$g];
                $to = $starts[$g + 1];
            }
            while ($from < $to) {
                $middle = ($from + $to) >> 1;
                if ($v <= $cuts[$middle]) {
                    $to = $middle;
                } else {
                    $from = $middle + 1;
                }
            }
            $out[] = $from + 1;
        }

        return $out;
    }
}
