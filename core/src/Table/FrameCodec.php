<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/**
 * Cells of up to 4,096 rows as compressed bytes, little-endian.
 *
 * First byte: how the rest is written.
 * - `d`: float64, NAN = missing.
 * - `i`: whole numbers after scaling by 10^e: e (1 byte), smallest (int64), bytes per cell (1), then differences to the smallest,
 *   all ones = missing. Codes, dates and short decimals are kept this way: far fewer bytes to compress than float64.
 * - `t`: text: byte length per cell (uint32, all ones = missing), then the bytes.
 */
final class FrameCodec
{
    public const ROWS = 4096;
    private const MISSING_LENGTH = 0xFFFFFFFF;

    /** @param list<float> $values NAN = missing; -0.0 is kept as 0 */
    public static function packNumbers(array $values): string
    {
        foreach ([0 => 1.0, 1 => 10.0, 2 => 100.0, 3 => 1000.0] as $exponent => $scale) {
            $whole = self::scaled($values, $scale);
            if (null !== $whole) {
                return self::packWhole($whole, $exponent);
            }
        }

        return self::squeeze('d'.pack('e*', ...$values));
    }

    /**
     * Kernel: the values times the scale when all are whole and give back the same doubles.
     *
     * @param list<float> $values
     *
     * @return ?list<int> PHP_INT_MIN = missing
     */
    private static function scaled(array $values, float $scale): ?array
    {
        $out = [];
        foreach ($values as $v) {
            if ($v !== $v) {
                $out[] = \PHP_INT_MIN;
                continue;
            }
            $r = round($v * $scale);
            if ($r / $scale !== $v || $r > 4e15 || $r < -4e15) {
                return null;
            }
            $out[] = (int) $r;
        }

        return $out;
    }

    /** @param list<int> $values PHP_INT_MIN = missing */
    public static function packWhole(array $values, int $exponent = 0): string
    {
        [$low, $width, $format, $none] = self::layout($values);
        $out = [];
        foreach ($values as $v) {
            $out[] = \PHP_INT_MIN === $v ? $none : $v - $low;
        }

        return self::squeeze('i'.pack('CPC', $exponent, $low, $width).pack($format, ...$out));
    }

    /**
     * Smallest value, bytes per cell, pack format and the mark for missing.
     *
     * @param list<int> $values
     *
     * @return array{int, int, string, int}
     */
    private static function layout(array $values): array
    {
        $low = \PHP_INT_MAX;
        $high = \PHP_INT_MIN;
        foreach ($values as $v) {
            if (\PHP_INT_MIN !== $v) {
                $low = $v < $low ? $v : $low;
                $high = $v > $high ? $v : $high;
            }
        }
        if ($low > $high) {
            $low = $high = 0;
        }
        $span = $high - $low;
        [$width, $format, $none] = match (true) {
            $span < 0xFF => [1, 'C*', 0xFF],
            $span < 0xFFFF => [2, 'v*', 0xFFFF],
            $span < 0xFFFFFFFF => [4, 'V*', 0xFFFFFFFF],
            default => [8, 'P*', -1],
        };

        return [$low, $width, $format, $none];
    }

    /**
     * The same as packNumbers() when the values repeat: each different one is encoded once.
     *
     * @param \Closure(array<array-key, string>): string $join   puts the bytes that stand for each cell in the order of the cells
     * @param array<array-key, float>                    $values by cell
     */
    public static function packMappedNumbers(\Closure $join, array $values): string
    {
        $distinct = array_values($values);
        foreach ([0 => 1.0, 1 => 10.0, 2 => 100.0, 3 => 1000.0] as $exponent => $scale) {
            $whole = self::scaled($distinct, $scale);
            if (null !== $whole) {
                return self::packMapped($join, array_combine(array_keys($values), $whole), $exponent);
            }
        }

        return self::squeeze('d'.$join(array_map(static fn (float $v) => pack('e', $v), $values)));
    }

    /**
     * The same as packWhole() when the values repeat.
     *
     * @param \Closure(array<array-key, string>): string $join   as for packMappedNumbers()
     * @param array<array-key, int>                      $values by cell, PHP_INT_MIN = missing
     */
    public static function packMapped(\Closure $join, array $values, int $exponent = 0): string
    {
        [$low, $width, $format, $none] = self::layout(array_values($values));
        $packed = [];
        foreach ($values as $cell => $v) {
            $packed[$cell] = pack($format[0], \PHP_INT_MIN === $v ? $none : $v - $low);
        }

        return self::squeeze('i'.pack('CPC', $exponent, $low, $width).$join($packed));
    }

    /** @param list<?string> $cells */
    public static function packTexts(array $cells): string
    {
        $lengths = [];
        foreach ($cells as $cell) {
            $lengths[] = null === $cell ? self::MISSING_LENGTH : \strlen($cell);
        }

        return self::squeeze('t'.pack('V*', ...$lengths).implode('', $cells));
    }

    /** @return list<float> per row; NAN = missing */
    public static function numbers(string $frame, int $rows): array
    {
        $raw = self::expand($frame);
        if ('d' === $raw[0]) {
            /** @var array<int, float> $values */
            $values = unpack('e*', $raw, 1) ?: [];

            return array_values($values);
        }
        [$whole, $exponent] = self::unpackWhole($raw);
        $scale = 10.0 ** $exponent;
        $out = [];
        foreach ($whole as $v) {
            $out[] = \PHP_INT_MIN === $v ? \NAN : $v / $scale;
        }
        self::check($out, $rows);

        return $out;
    }

    /** @return list<int> PHP_INT_MIN = missing */
    public static function whole(string $frame, int $rows): array
    {
        [$whole] = self::unpackWhole(self::expand($frame));
        self::check($whole, $rows);

        return $whole;
    }

    /** @return list<?string> per row; null = missing */
    public static function texts(string $frame, int $rows): array
    {
        $raw = self::expand($frame);
        /** @var array<int, int> $lengths */
        $lengths = unpack('V'.$rows, $raw, 1) ?: [];
        $at = 1 + 4 * $rows;
        $out = [];
        foreach ($lengths as $length) {
            if (self::MISSING_LENGTH === $length) {
                $out[] = null;
                continue;
            }
            $out[] = substr($raw, $at, $length);
            $at += $length;
        }

        return $out;
    }

    /** Whether the frame holds plain text rather than codes or numbers. */
    public static function isText(string $frame): bool
    {
        return 't' === self::expand($frame)[0];
    }

    /** @return array{list<int>, int} */
    private static function unpackWhole(string $raw): array
    {
        if (\strlen($raw) < 11) {
            throw new \UnexpectedValueException('A stored block of cells is damaged.');
        }
        /** @var array{e: int, low: int, width: int} $head */
        $head = unpack('Ce/Plow/Cwidth', $raw, 1);
        [$format, $none] = match ($head['width']) {
            1 => ['C*', 0xFF],
            2 => ['v*', 0xFFFF],
            4 => ['V*', 0xFFFFFFFF],
            default => ['P*', -1],
        };
        $low = $head['low'];
        /** @var array<int, int> $differences */
        $differences = unpack($format, $raw, 11) ?: [];
        $out = [];
        foreach ($differences as $v) {
            $out[] = $v === $none ? \PHP_INT_MIN : $v + $low;
        }

        return [$out, $head['e']];
    }

    private static function squeeze(string $raw): string
    {
        return (string) gzdeflate($raw, 1);
    }

    private static function expand(string $frame): string
    {
        $raw = @gzinflate($frame);
        if (false === $raw || '' === $raw) {
            throw new \UnexpectedValueException('A stored block of cells is damaged.');
        }

        return $raw;
    }

    /** @param list<mixed> $cells */
    private static function check(array $cells, int $rows): void
    {
        if (\count($cells) !== $rows) {
            throw new \UnexpectedValueException(\sprintf('A stored block has %d cells where %d are expected.', \count($cells), $rows));
        }
    }
}
