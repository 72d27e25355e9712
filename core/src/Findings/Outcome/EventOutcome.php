<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings\Outcome;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Profile\Chance;

/** An event: columns are ranked by the area under the ROC curve of what they say alone. */
final readonly class EventOutcome implements Outcome
{
    /** Events that every value borrows from the whole, so that rare values do not shout. */
    private const BORROWED = 10.0;
    /** Odds so many times those of the whole nearly settle the outcome. */
    private const SETTLING = 10.0;
    private const FEWEST = 10;
    /** With fewer of either kind no rule is looked for. */
    private const FEWEST_FOR_RULES = 20;

    /** @param list<float> $event 1, 0 or NAN */
    public function __construct(private array $event)
    {
    }

    public function halves(): ?array
    {
        [$halves, $counts] = Halves::of($this->event);

        return min($counts[0] ?? 0, $counts[1] ?? 0) < self::FEWEST ? null : $halves;
    }

    public function ranked(array $codes, array $learning, array $judging): array
    {
        $hits = $sizes = [];
        foreach ($learning as $row) {
            $code = $codes[$row];
            $sizes[$code] = ($sizes[$code] ?? 0) + 1;
            $hits[$code] = ($hits[$code] ?? 0.0) + $this->event[$row];
        }
        $overall = array_sum($hits) / \count($learning);
        $bar = self::SETTLING * $overall / (1.0 - $overall + self::SETTLING * $overall);
        $known = $score = [];
        $settled = $events = 0;
        foreach ($judging as $row) {
            $code = $codes[$row];
            $rate = (($hits[$code] ?? 0.0) + self::BORROWED * $overall) / (($sizes[$code] ?? 0) + self::BORROWED);
            $known[] = $this->event[$row];
            $score[] = $rate;
            if ($this->event[$row] > 0.5) {
                ++$events;
                $settled += $rate >= $bar ? 1 : 0;
            }
        }
        $auc = DeLong::of($known, $score);

        return ['value' => $auc->auc, 'half' => Normal::Z95 * sqrt($auc->variance()), 'settled' => $settled / max(1, $events)];
    }

    public function chance(array $codes, ?array $values): float
    {
        $classes = array_map(static fn (float $e): int => is_nan($e) ? -1 : ($e > 0.5 ? 1 : 0), $this->event);
        $p = Chance::ofCategories(array_map(static fn (int $code): int => $code + 1, $codes), $classes) ?? 1.0;

        return null === $values ? $p : min(1.0, 2 * min($p, Chance::ofNumbers($values, $this->event) ?? 1.0));
    }

    public function told(array $codes): array
    {
        return [$this->event, ''];
    }

    public function write(float $mean): string
    {
        return \sprintf('%.1f%%', 100 * $mean);
    }

    public function facets(): array
    {
        return [null];
    }

    public function sums(array $rows): array
    {
        $hits = 0;
        foreach ($rows as $row) {
            $hits += $this->event[$row] > 0.5 ? 1 : 0;
        }

        return [(float) $hits];
    }

    public function spreads(array $rows): array
    {
        $hits = $this->sums($rows)[0];

        return [$hits < self::FEWEST_FOR_RULES || \count($rows) - $hits < self::FEWEST_FOR_RULES ? null : 1.0];
    }

    public function mean(int $facet, array $rows): Interval
    {
        return Interval::wilson($this->sums($rows)[0], \count($rows));
    }
}
