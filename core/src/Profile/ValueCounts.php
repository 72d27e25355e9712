<?php

declare(strict_types=1);

namespace Dokimos\Core\Profile;

/**
 * Gathers how often each number occurs, in passing. Few distinct values are counted; once there are many, the rest is kept packed and
 * sorted at the end, so that a million cells take 8 MB and not 40.
 */
final class ValueCounts
{
    private const MOST = 20000;

    /** @var array<array-key, int> by the value's eight bytes */
    private array $counts = [];
    private string $packed = '';
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
        $known = [];
        foreach ($this->counts as $bytes => $count) {
            /** @var array{1: float} $value */
            $value = unpack('e', (string) $bytes);
            $known[] = [$value[1] + 0.0, $count];
        }
        usort($known, static fn (array $a, array $b) => $a[0] <=> $b[0]);
        $values = $counts = [];
        $k = -1;
        $i = $j = 0;
        $n = \count($known);
        $m = \count($rest);
        while ($i < $n || $j < $m) {
            if ($j >= $m || $i < $n && $known[$i][0] <= $rest[$j]) {
                [$v, $c] = $known[$i++];
            } else {
                $v = $rest[$j++];
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
