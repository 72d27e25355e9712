<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** The best way to divide a node by one column, before it is known whether another column does better. */
final readonly class Found
{
    /**
     * @param float                 $gain    weight of the node times what impurity falls by; for the gain ratio, that ratio
     * @param int                   $cut     codes up to it go left; PHP_INT_MAX: all that have a value
     * @param int                   $next    the next code seen in the node
     * @param ?list<int>            $left    codes of levels on one side, of those present; null for an order
     * @param list<int>             $present codes of levels in the node, missing = 0 among them
     * @param array<int, int|float> $weights by code
     */
    private function __construct(public int $feature, public float $gain, private int $cut, private int $next, private bool $missingLeft, private bool $missingSeen, private ?array $left = null, private array $present = [], private array $weights = [])
    {
    }

    public static function cut(int $feature, float $gain, int $cut, int $next, bool $missingLeft, bool $missingSeen): self
    {
        return new self($feature, $gain, $cut, $next, $missingLeft, $missingSeen);
    }

    /**
     * @param list<int>             $left
     * @param list<int>             $present
     * @param array<int, int|float> $weights
     */
    public static function levels(int $feature, float $gain, array $left, array $present, array $weights): self
    {
        return new self($feature, $gain, 0, 0, false, false, $left, $present, $weights);
    }

    /** Of gains that differ by less than rounding, the first counts. */
    public static function better(?self $best, ?self $found): ?self
    {
        return null !== $found && $found->gain > ($best->gain ?? 0.0) * (1 + Search::SAME) ? $found : $best;
    }

    public function division(Cells $cells): Division
    {
        if (null === $this->left) {
            return new Division($this->feature, $this->gain, $this->cut, $this->next, null, $this->missingLeft, missingSeen: $this->missingSeen);
        }
        $in = array_flip($this->left);
        $places = $cells->levels[$this->feature] ?? [];
        $seen = array_values(array_filter($this->present, static fn (int $k) => $k > 0));
        usort($seen, static fn (int $a, int $b) => ($places[$a - 1] ?? \PHP_INT_MAX) <=> ($places[$b - 1] ?? \PHP_INT_MAX));
        if ([] !== $seen && !isset($in[$seen[0]])) {
            // Of the two sides the one with the first level is left.
            $in = array_flip(array_diff($this->present, $this->left));
        }
        $leftWeight = $all = 0.0;
        foreach ($this->present as $k) {
            $all += $this->weights[$k];
            $leftWeight += isset($in[$k]) ? $this->weights[$k] : 0.0;
        }
        // What was not seen in this node goes where more rows went.
        $missingSeen = \in_array(0, $this->present, true);
        $missingLeft = $missingSeen ? isset($in[0]) : 2 * $leftWeight > $all;
        $codes = [];
        for ($k = 1, $size = $cells->sizes[$this->feature]; $k <= $size; ++$k) {
            if (isset($in[$k]) || (($this->weights[$k] ?? 0) <= 0 && 2 * $leftWeight > $all)) {
                $codes[] = $k;
            }
        }

        return new Division($this->feature, $this->gain, 0, 0, $codes, $missingLeft, $seen, $missingSeen);
    }
}
