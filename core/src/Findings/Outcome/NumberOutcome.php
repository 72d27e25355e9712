<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings\Outcome;

use Dokimos\Core\Measure\Concordance;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Profile\Chance;

/** A number: columns are ranked by the concordance of what they say alone. */
final readonly class NumberOutcome implements Outcome
{
    /** Records that every part borrows from the whole. */
    private const BORROWED = 10.0;
    private const FEWEST = 40;

    /** @var ?array{list<int>, list<int>} */
    private ?array $halves;

    /** @param list<float> $values NAN = unknown */
    public function __construct(private array $values)
    {
        $this->halves = self::parted($values);
    }

    public function halves(): ?array
    {
        return $this->halves;
    }

    /**
     * @param list<float> $values
     *
     * @return ?array{list<int>, list<int>}
     */
    private static function parted(array $values): ?array
    {
        $known = array_filter($values, static fn (float $v): bool => !is_nan($v));
        if (\count($known) < self::FEWEST || min($known) === max($known)) {
            return null;
        }
        asort($known, \SORT_NUMERIC);
        $halves = [[], []];
        // Of two neighbors in size one goes to either half, taking turns: neither has always the larger.
        foreach (array_keys($known) as $i => $row) {
            $halves[($i + 1 >> 1) & 1][] = $row;
        }
        sort($halves[0]);
        sort($halves[1]);

        return [$halves[0], $halves[1]];
    }

    public function ranked(array $codes, array $learning, array $judging): array
    {
        $sums = $sizes = [];
        foreach ($learning as $row) {
            $code = $codes[$row];
            $sizes[$code] = ($sizes[$code] ?? 0) + 1;
            $sums[$code] = ($sums[$code] ?? 0.0) + $this->values[$row];
        }
        $overall = array_sum($sums) / \count($learning);
        $known = $score = [];
        foreach ($judging as $row) {
            $code = $codes[$row];
            $known[] = $this->values[$row];
            $score[] = (($sums[$code] ?? 0.0) + self::BORROWED * $overall) / (($sizes[$code] ?? 0) + self::BORROWED);
        }
        $order = Concordance::of($known, $score);

        return ['value' => $order->value ?? 0.5, 'half' => $order?->half() ?? 0.5, 'settled' => 0.0];
    }

    public function chance(array $codes, ?array $values): float
    {
        $p = Chance::ofGroups(array_map(static fn (int $code): int => $code + 1, $codes), $this->values) ?? 1.0;

        return null === $values ? $p : min(1.0, 2 * min($p, Chance::ofNumbers($values, $this->values) ?? 1.0));
    }

    public function told(array $codes): array
    {
        return [$this->values, ''];
    }

    public function write(float $mean): string
    {
        return Words::number($mean);
    }

    public function facets(): array
    {
        return [null];
    }

    public function sums(array $rows): array
    {
        $sum = 0.0;
        foreach ($rows as $row) {
            $sum += $this->values[$row];
        }

        return [$sum];
    }

    public function spreads(array $rows): array
    {
        return [1.0];
    }

    public function mean(int $facet, array $rows): Interval
    {
        return Interval::mean(array_map(fn (int $row): float => $this->values[$row], $rows));
    }
}
