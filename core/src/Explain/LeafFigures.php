<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Tree\Node;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Measure\Interval;

/** What the rows of one node of a tree were. */
final readonly class LeafFigures
{
    /**
     * @param int      $events   rows of the class in question; 0 for a number
     * @param Interval $interval share of that class (Wilson) or mean (Student's t)
     * @param int      $place    of that class: the second of two, of several the one that the node names; 0 for a number
     * @param ?string  $named    that class, of several
     */
    private function __construct(public int $rows, public int $events, public Interval $interval, public int $place, public ?string $named)
    {
    }

    /** @param bool $judged by rows that did not grow the tree; else by those that did */
    public static function of(TreeModel $tree, Node $node, bool $judged): self
    {
        $counts = $judged ? $node->judged : $node->counts;
        $classes = $tree->classes();
        if ([] === $classes) {
            [$n, $mean, $squares] = $counts + [0.0, 0.0, 0.0];

            return new self((int) round($n), 0, self::mean($n, $mean, $squares), 0, null);
        }
        $place = \count($classes) > 2 ? (int) array_search(max([0.0, ...$node->counts]), $node->counts, true) : 1;
        $n = array_sum($counts);
        $events = $counts[$place] ?? 0.0;

        return new self((int) round($n), (int) round($events), Interval::wilson($events, $n), $place, \count($classes) > 2 ? $classes[$place] : null);
    }

    private static function mean(float $n, float $mean, float $squares): Interval
    {
        if ($n < 2.0) {
            return new Interval($n > 0.0 ? $mean : null);
        }
        $half = (new StudentT($n - 1))->quantile(0.975) * sqrt($squares / ($n - 1) / $n);

        return new Interval($mean, $mean - $half, $mean + $half);
    }
}
