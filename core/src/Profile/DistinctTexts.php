<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/**
 * How many different texts passed by, told apart by 64 bits of each: of ten million two are taken for the same with a chance of one in
 * 370,000. A few are listed; of many the bits are kept packed, 8 bytes each and 16 at most before they are folded.
 */
final class DistinctTexts
{
    private const LISTED = 50_000;
    private const BYTES = 8;
    /** Bits are kept in so many strings, by their first six: each is folded by itself, so that folding takes little room. */
    private const BUCKETS = 64;
    /** A bucket is folded once it is twice as long as after its last folding, and so long at least. */
    private const SHORTEST = 1 << 17;

    /** @var array<array-key, true> by the 8 bytes */
    private array $listed = [];
    /** @var array<int, string> none while they are listed */
    private array $buckets = [];
    /** @var array<int, int> bytes from which on a bucket is folded */
    private array $folds = [];

    /** @param list<string> $texts */
    public function add(array $texts): void
    {
        if ([] === $this->buckets) {
            foreach ($texts as $text) {
                $this->listed[hash('xxh3', $text, true)] = true;
            }
            if (\count($this->listed) > self::LISTED) {
                $this->pack();
            }

            return;
        }
        $buckets = &$this->buckets;
        foreach ($texts as $text) {
            $bits = hash('xxh3', $text, true);
            $buckets[\ord($bits) & self::BUCKETS - 1] .= $bits;
        }
        foreach ($buckets as $i => $bucket) {
            if (\strlen($bucket) > $this->folds[$i]) {
                unset($bucket);
                $this->fold($i);
            }
        }
    }

    public function count(): int
    {
        if ([] === $this->buckets) {
            return \count($this->listed);
        }
        foreach (array_keys($this->buckets) as $i) {
            $this->fold($i);
        }

        return intdiv(array_sum(array_map(\strlen(...), $this->buckets)), self::BYTES);
    }

    private function pack(): void
    {
        $this->buckets = array_fill(0, self::BUCKETS, '');
        $this->folds = array_fill(0, self::BUCKETS, self::SHORTEST);
        foreach (array_keys($this->listed) as $bits) {
            $bits = (string) $bits;
            $this->buckets[\ord($bits) & self::BUCKETS - 1] .= $bits;
        }
        $this->listed = [];
    }

    private function fold(int $i): void
    {
        $bucket = $this->buckets[$i] ?? '';
        if ('' !== $bucket) {
            $this->buckets[$i] = implode('', array_keys(array_count_values(str_split($bucket, self::BYTES))));
        }
        $this->folds[$i] = max(self::SHORTEST, 2 * \strlen($this->buckets[$i] ?? ''));
    }
}
