<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/**
 * Gradient, curvature and count of a row in one whole number, so that one addition fills a bin: from the lowest bits the count (where
 * it fits), the curvature, the gradient with its sign. Sums over all rows never run from one field into the next. Gradients are
 * rounded to steps of a 1,000th of the largest or finer; whole numbers make sums the same in any order.
 */
final readonly class Packing
{
    private const FINE = 10;
    private const BITS = 62;

    public int $countBits;
    public int $curveBits;
    public int $steps;
    public int $countMask;
    public int $curveMask;
    public int $gradientShift;

    public function __construct(int $rows)
    {
        $bits = max(1, (int) ceil(log($rows + 1, 2)));
        $fine = intdiv(self::BITS - 3 * $bits, 2);
        if ($fine >= self::FINE) {
            $this->countBits = $bits;
        } else {
            // Many rows: how many there are is told by their curvature, which is near enough.
            $this->countBits = 0;
            $fine = intdiv(self::BITS - 2 * $bits, 2);
        }
        $fine = min($fine, 20);
        $this->curveBits = $bits + $fine;
        $this->steps = (1 << $fine) - 1;
        $this->countMask = (1 << $this->countBits) - 1;
        $this->curveMask = (1 << $this->curveBits) - 1;
        $this->gradientShift = $this->countBits + $this->curveBits;
    }

    /**
     * The same for the event of two classes in one pass. Hot loop.
     *
     * @param list<float> $y    0 or 1
     * @param list<float> $sums log odds
     *
     * @return array{list<int>, float, float}
     */
    public function ofOdds(array $y, array $sums): array
    {
        // Slopes are below 1, curvatures at most a quarter.
        $g1 = (float) $this->steps;
        $h1 = 4.0 * $this->steps;
        $shift = $this->gradientShift;
        $countBits = $this->countBits;
        $one = $countBits > 0 ? 1 : 0;
        $out = [];
        foreach ($sums as $i => $sum) {
            $p = 1.0 / (1.0 + exp(-$sum));
            // Half a step more than all that may be taken away, so that cutting off the rest rounds.
            $out[] = ((int) (($y[$i] - $p + 1.0) * $g1 + 0.5) - $this->steps << $shift) + ((int) ($p * (1.0 - $p) * $h1 + 0.5) << $countBits) + $one;
        }

        return [$out, 1 / $g1, 1 / $h1];
    }

    /**
     * Hot loop.
     *
     * @param list<float> $gradient
     * @param list<float> $curve    not negative
     *
     * @return array{list<int>, float, float} one number per row, and what one step of gradient and of curvature stand for
     */
    public function pack(array $gradient, array $curve): array
    {
        $largest = $highest = 1e-300;
        foreach ($gradient as $i => $g) {
            if ($g > $largest) {
                $largest = $g;
            } elseif (-$g > $largest) {
                $largest = -$g;
            }
            if ($curve[$i] > $highest) {
                $highest = $curve[$i];
            }
        }
        $g1 = $this->steps / $largest;
        $h1 = $this->steps / $highest;
        $shift = $this->gradientShift;
        $countBits = $this->countBits;
        $one = $countBits > 0 ? 1 : 0;
        $out = [];
        foreach ($gradient as $i => $g) {
            $v = $g * $g1;
            $out[] = ((int) ($v < 0.0 ? $v - 0.5 : $v + 0.5) << $shift) + ((int) ($curve[$i] * $h1 + 0.5) << $countBits) + $one;
        }

        return [$out, 1 / $g1, 1 / $h1];
    }
}
