<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/** Codes of some rows, one row after the other, so that all a tree asks about a row lies together in memory. */
final readonly class RowCodes
{
    /**
     * @param list<int> $codes  as many per row as there are columns
     * @param int       $stride columns
     * @param int       $rows   how many
     */
    private function __construct(public array $codes, public int $stride, public int $rows)
    {
    }

    /** @param list<list<int>> $columns one code per row; columns that are empty stand as missing */
    public static function of(array $columns, int $rows): self
    {
        $stride = \count($columns);
        $out = array_fill(0, $rows * $stride, 0);
        foreach ($columns as $f => $column) {
            $at = $f;
            foreach ($column as $code) {
                $out[$at] = $code;
                $at += $stride;
            }
        }

        return new self(array_values($out), $stride, $rows);
    }
}
