<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\Evidence;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Profile\ScaledBins;

/** A column that is put into bins: its fine distribution with the event's share, the cut points, and what each bin says of the event. */
final readonly class BinsLook
{
    private const PARTS = 40;

    /**
     * @param list<array{low: float, high: float, count: int, judged: int, events: int}>                $parts
     * @param list<float>                                                                               $cuts
     * @param list<array{label: string, count: int, judged: int, events: int, woe: ?float, iv: ?float}> $bins
     * @param ?float                                                                                    $value information value of all bins; null before a target is chosen
     */
    private function __construct(public string $column, public array $parts, public array $cuts, public array $bins, public ?float $value)
    {
    }

    /** @param list<float> $cuts */
    public static function of(Lesson $lesson, string $name, array $cuts): self
    {
        $values = $lesson->table->number($name)->values;
        $known = array_map(static fn (int $r) => $values[$r], $lesson->rows);
        $edges = ScaledBins::edges($known, self::PARTS, false);
        $fine = self::counted($lesson, $values, \array_slice($edges, 1, -1));
        $parts = [];
        foreach ($fine as $i => $part) {
            $parts[] = ['low' => $edges[$i] ?? 0.0, 'high' => $edges[$i + 1] ?? 0.0] + $part;
        }
        $counted = self::counted($lesson, $values, $cuts);
        $evidence = null === $lesson->event ? null : Evidence::of(array_map(static fn (array $p) => [$p['events'], $p['judged'] - $p['events']], $counted));
        /** @var array<array-key, array{woe: float, iv: float}> $woe */
        $woe = [];
        foreach ($evidence->levels ?? [] as $level) {
            $woe[$level['level']] = $level;
        }
        $labels = FittedBins::labels($cuts);
        $bins = [];
        foreach ($counted as $i => $part) {
            $bins[] = ['label' => $labels[$i]] + $part + ['woe' => ($woe[$i] ?? null)['woe'] ?? null, 'iv' => ($woe[$i] ?? null)['iv'] ?? null];
        }

        return new self($name, $parts, $cuts, $bins, $evidence?->value);
    }

    /**
     * @param list<float> $values
     * @param list<float> $cuts
     *
     * @return list<array{count: int, judged: int, events: int}>
     */
    private static function counted(Lesson $lesson, array $values, array $cuts): array
    {
        $count = $judged = $events = array_fill(0, \count($cuts) + 1, 0);
        $codes = QuantileBins::codes($values, $cuts);
        foreach ($lesson->rows as $row) {
            $bin = $codes[$row];
            if ($bin < 0) {
                continue;
            }
            ++$count[$bin];
            $e = $lesson->event[$row] ?? \NAN;
            if ($e === $e) {
                ++$judged[$bin];
                $events[$bin] += $e > 0.5 ? 1 : 0;
            }
        }

        return array_map(static fn (int $n, int $j, int $e) => ['count' => $n, 'judged' => $j, 'events' => $e], $count, $judged, $events);
    }
}
