<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\Interval;

/**
 * What acting did, judged by assignment: events among those to be acted on, whether that was done or not, against those left untouched by
 * draw. The share prevented is 1 − ratio of both rates, its interval from the logarithm of the ratio (Katz 1978, half an event added to
 * each
 * where there is none). Definition: docs/methods/action-list.md.
 */
final readonly class MeasuredEffect
{
    /** @param Interval $works share of events prevented; null where the untouched had none */
    private function __construct(
        public int $acted,
        public int $actedEvents,
        public int $left,
        public int $leftEvents,
        public Interval $actedRate,
        public Interval $leftRate,
        public Interval $works,
    ) {
    }

    public static function of(int $acted, int $actedEvents, int $left, int $leftEvents): self
    {
        return new self(
            $acted,
            $actedEvents,
            $left,
            $leftEvents,
            Interval::wilson($actedEvents, $acted),
            Interval::wilson($leftEvents, $left),
            self::works($acted, $actedEvents, $left, $leftEvents),
        );
    }

    private static function works(int $acted, int $actedEvents, int $left, int $leftEvents): Interval
    {
        if ($acted < 1 || $left < 1 || $leftEvents < 1) {
            return new Interval(null);
        }
        $more = $actedEvents > 0 ? 0.0 : 0.5;
        [$a, $n, $b, $m] = array_map(
            static fn (int $of): float => max(0.5, $of + $more),
            [$actedEvents, $acted, $leftEvents, $left],
        );
        $ratio = ($a / $n) / ($b / $m);
        $error = sqrt(1 / $a - 1 / $n + 1 / $b - 1 / $m);

        return new Interval(
            1.0 - ($actedEvents / $acted) / ($leftEvents / $left),
            1.0 - $ratio * exp(Normal::Z95 * $error),
            1.0 - $ratio * exp(-Normal::Z95 * $error),
        );
    }

    /**
     * Whether what was thought is out of question: the whole interval lies on one side of the range.
     *
     * @param array{float, float} $range
     */
    public function contradicts(array $range): bool
    {
        return null !== $this->works->low && ($this->works->low > $range[1] || $this->works->high < $range[0]);
    }
}
