<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/**
 * Gathers how often each number occurs, in passing. Few distinct values are counted; once there are many, the rest is kept packed, folded
 * now and then as long as values repeat, and sorted at the end: a million cells take 8 MB at most and not 40.
 */
final class ValueCounts
{
    private const MOST = 20000;
    /** Packed values are folded once there are so many. */
    private const FOLDED = 1 << 18;
    /** Above so many different ones folding takes more room than it saves. */
    private const MOST_FOLDED = 500_000;

    /** @var array<array-key, int> by the value's eight bytes */
    private array $counts = [];
    private string $packed = '';
    /** @var array<array-key, int> the same, of values that were packed */
    private array $folded = [];
    private bool $folds = true;
    public int $missing = 0;

    /**
     * Cells that hardly repeat.
     *
     * @param list<float> $values NAN = missing
     */
    public function add(array $values): void
    {
        $present = [];
        foreach ($values as $v) {
            if ($v === $v) {
                $present[] = $v;
            }
        }
        $this->missing += \count($values) - \count($present);
        $this->packed .= [] === $present ? '' : pack('e*', ...$present);
        if ($this->folds && \strlen($this->packed) >= 8 * self::FOLDED) {
            $this->fold();
        }
    }

    private function fold(): void
    {
        foreach (array_count_values(str_split($this->packed, 8)) as $bytes => $count) {
            $this->folded[$bytes] = ($this->folded[$bytes] ?? 0) + $count;
        }
        $this->packed = '';
        $this->folds = \count($this->folded) <= self::MOST_FOLDED;
    }

    /**
     * The same when equal cells have been counted already.
     *
     * @param list<array{float, int}> $pairs value and count
     */
    public function addCounted(array $pairs): void
    {
        $counts = &$this->counts;
        foreach ($pairs as [$value, $count]) {
            if ($value !== $value) {
                $this->missing += $count;
                continue;
            }
            $bytes = pack('e', $value);
            $counts[$bytes] = ($counts[$bytes] ?? 0) + $count;
        }
    }

    public function isCounting(): bool
    {
        return \count($this->counts) <= self::MOST;
    }

    /** @return array{list<float>, list<int>} distinct values ascending, and their counts */
    public function sorted(): array
    {
        /** @var array<int, float> $rest */
        $rest = '' === $this->packed ? [] : (unpack('e*', $this->packed) ?: []);
        sort($rest, \SORT_NUMERIC);
        $all = implode('', array_keys($this->counts)).implode('', array_keys($this->folded));
        /** @var array<int, float> $known */
        $known = '' === $all ? [] : (unpack('e*', $all) ?: []);
        $times = [...array_values($this->counts), ...array_values($this->folded)];
        array_multisort($known, \SORT_NUMERIC, $times);
        $values = $counts = [];
        $k = -1;
        $i = $j = 0;
        $n = \count($known);
        $m = \count($rest);
        while ($i < $n || $j < $m) {
            if ($j >= $m || $i < $n && $known[$i] <= $rest[$j]) {
                $v = $known[$i] + 0.0;
                $c = $times[$i++];
            } else {
                $v = $rest[$j++] + 0.0;
                $c = 1;
            }
            if ($k >= 0 && $values[$k] === $v) {
                $counts[$k] += $c;
            } else {
                $values[++$k] = $v;
                $counts[$k] = $c;
            }
        }

        return [array_values($values), array_values($counts)];
    }
}
