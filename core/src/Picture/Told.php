<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Measure\Interval;

/** The event's share among some records, counting only those whose outcome may be seen. */
final readonly class Told
{
    /** @param ?list<float> $event 1, 0, or NAN where unknown or sealed; null when there is no target */
    public function __construct(private ?array $event)
    {
    }

    /** Whether the event happened; null where that is not known. */
    public function of(int $row): ?bool
    {
        $e = $this->event[$row] ?? \NAN;

        return is_nan($e) ? null : $e > 0.5;
    }

    /**
     * Rows that may be judged, and the share of the event among them with Wilson's 95 % interval.
     *
     * @param list<int> $rows
     *
     * @return array{judged: int, share: ?float, low: ?float, high: ?float}
     */
    public function share(array $rows): array
    {
        $judged = $hits = 0;
        foreach ($rows as $row) {
            $e = $this->event[$row] ?? \NAN;
            if ($e === $e) {
                ++$judged;
                $hits += $e > 0.5 ? 1 : 0;
            }
        }
        $share = Interval::wilson($hits, $judged);

        return ['judged' => $judged, 'share' => $share->value, 'low' => $share->low, 'high' => $share->high];
    }
}
