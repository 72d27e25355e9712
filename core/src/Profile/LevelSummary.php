<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/** The figures of a column of categories, yes/no, text or identifiers. Definitions: docs/methods/summary.md. */
final readonly class LevelSummary
{
    /** @param list<array{value: string, count: int, share: float}> $top most frequent first, ties in byte order */
    private function __construct(public int $n, public int $missing, public int $distinct, public array $top, public float $entropyBits)
    {
    }

    /** @param array<array-key, int> $counts value => how often, missing cells left out */
    public static function fromCounts(array $counts, int $missing, int $top = 5): self
    {
        $n = array_sum($counts);
        $entropy = 0.0;
        foreach ($counts as $count) {
            $entropy -= $count > 0 ? $count / $n * log($count / $n, 2) : 0.0;
        }
        $best = $counts;
        if (\count($best) > 4 * $top) {
            // Sorting a hundred thousand texts only to show five is waste: keep those that can be among the first.
            $ordered = array_values($counts);
            rsort($ordered);
            $floor = $ordered[$top - 1];
            $best = array_filter($counts, static fn (int $c) => $c >= $floor);
        }
        uksort($best, static fn (int|string $a, int|string $b) => $best[$b] <=> $best[$a] ?: strcmp((string) $a, (string) $b));
        $list = [];
        foreach (\array_slice($best, 0, $top, true) as $value => $count) {
            if ($count > 0) {
                $list[] = ['value' => (string) $value, 'count' => $count, 'share' => $count / $n];
            }
        }

        return new self($n, $missing, \count(array_filter($counts)), $list, $entropy);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $head = ['type' => 'text', 'n' => $this->n, 'missing' => $this->missing, 'distinct' => $this->distinct];

        return 0 === $this->n ? $head : $head + ['mode' => $this->top[0]['value'] ?? null, 'top' => $this->top, 'entropy_bits' => $this->entropyBits];
    }
}
