<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** Fifths of the values of a number, so that a density can be read as evidence: each by its middle value. */
final readonly class Spots
{
    private const PARTS = 5;

    /** @param list<array{string, float, float}> $parts in words, the middle, and the share of rows */
    private function __construct(public array $parts)
    {
    }

    /** @param list<float> $values finite */
    public static function of(array $values, bool $isDate): self
    {
        sort($values, \SORT_NUMERIC);
        $n = \count($values);
        $write = static fn (float $v): string => $isDate ? gmdate('j M Y', (int) ($v * DateColumn::DAY)) : NumberColumn::write($v);
        $parts = [];
        $from = 0;
        for ($k = 1; $k <= self::PARTS && $from < $n; ++$k) {
            $to = max($from + 1, (int) round($k * $n / self::PARTS));
            // Equal values are in one part.
            while ($to < $n && $values[$to] === $values[$to - 1]) {
                ++$to;
            }
            $to = min($n, $to);
            $own = $values[$from] === $values[$to - 1];
            $parts[] = [
                match (true) {
                    $own => $write($values[$from]),
                    0 === $from => 'up to '.$write($values[$to - 1]),
                    $to === $n => $write($values[$from]).' and over',
                    default => $write($values[$from]).' to '.$write($values[$to - 1]),
                },
                $values[intdiv($from + $to - 1, 2)],
                ($to - $from) / $n,
            ];
            $from = $to;
        }

        return new self($parts);
    }

    /** @param list<array{string, float|int, float|int}> $parts */
    public static function read(array $parts): self
    {
        return new self(array_map(static fn (array $p): array => [$p[0], (float) $p[1], (float) $p[2]], $parts));
    }
}
