<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * Gives each different cell of a column a byte, as long as there are few: then a frame is a string, counting its cells is counting
 * bytes, and encoding them is translating bytes, both in one call of the language instead of one step a cell.
 */
final class CellDictionary
{
    private const MOST = 254;

    /** @var array<array-key, string> byte by cell */
    private array $bytes = [];
    /** @var list<string> */
    private array $cells = [];

    /**
     * @param list<string> $cells
     *
     * @return ?string one byte per cell; null when there are too many different ones, now and from then on
     */
    public function encode(array $cells): ?string
    {
        $bytes = $this->bytes;
        $out = '';
        foreach ($cells as $cell) {
            if (!isset($bytes[$cell])) {
                $code = \count($this->cells);
                if ($code > self::MOST) {
                    return null;
                }
                $bytes[$cell] = \chr($code);
                $this->cells[] = $cell;
            }
            $out .= $bytes[$cell];
        }
        $this->bytes = $bytes;

        return $out;
    }

    /** @return array<array-key, int> how often each cell occurs in an encoded frame */
    public function counts(string $encoded): array
    {
        $counts = [];
        foreach (count_chars($encoded, 1) as $code => $count) {
            $counts[$this->cells[$code]] = $count;
        }

        return $counts;
    }

    /** @return list<string> the cells that an encoded frame stands for */
    public function cells(string $encoded): array
    {
        $cells = [];
        for ($i = 0, $length = \strlen($encoded); $i < $length; ++$i) {
            $cells[] = $this->cells[\ord($encoded[$i])];
        }

        return $cells;
    }

    /**
     * The frame with other bytes, one or more, in place of each cell.
     *
     * @param array<array-key, string> $to bytes by cell, equally many for each
     */
    public function translate(string $encoded, array $to): string
    {
        $from = $into = '';
        foreach ($to as $cell => $bytes) {
            $from .= $this->bytes[$cell];
            $into .= $bytes;
        }
        if (\strlen($from) === \strlen($into)) {
            return strtr($encoded, $from, $into);
        }
        $out = '';
        foreach ($this->cells($encoded) as $cell) {
            $out .= $to[$cell];
        }

        return $out;
    }
}
