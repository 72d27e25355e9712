<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

use Dokimos\Core\Math\Distribution\Normal;

/**
 * What acting on a set of records costs and brings, outcomes independent of one another. The interval is of the outcomes alone, by the
 * normal
 * approximation; what chances and effect add is drawn by ReturnDraws. Definition: docs/methods/action-list.md.
 */
final readonly class SetFigures
{
    /**
     * @param float  $events    expected among them were nothing done
     * @param float  $prevented expected to be prevented
     * @param float  $gross     what those bring
     * @param float  $inVain    what actions on records without the event cost beyond the action
     * @param float  $return    gross less all cost
     * @param ?float $roi       return by cost; null when nothing is spent
     * @param ?float $loss      chance that it returns less than nothing; null where nothing is uncertain
     */
    private function __construct(
        public int $actions,
        public float $cost,
        public float $events,
        public float $prevented,
        public float $gross,
        public float $inVain,
        public float $return,
        public ?float $roi,
        public float $variance,
        public float $low,
        public float $high,
        public ?float $loss,
    ) {
    }

    /** What they sum to; the return and its interval follow. */
    public static function of(
        int $actions,
        float $cost,
        float $gross,
        float $inVain,
        float $variance,
        float $events,
        float $prevented,
    ): self {
        $return = $gross - $cost - $inVain;
        $spent = $cost + $inVain;
        $sd = sqrt($variance);

        return new self(
            $actions,
            $cost,
            $events,
            $prevented,
            $gross,
            $inVain,
            $return,
            $spent > 0.0 ? $return / $spent : null,
            $variance,
            $return - Normal::Z95 * $sd,
            $return + Normal::Z95 * $sd,
            $sd > 0.0 ? (new Normal())->cdf(-$return / $sd) : null,
        );
    }
}
