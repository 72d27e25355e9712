<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** The memory that a regression's matrix takes, asked for before it is made: running out of it cannot be caught. */
final class Room
{
    private const CELL = 16;

    /**
     * @param int $copies how many matrices the fit holds at once
     *
     * @throws CannotFit when what PHP may still take is less
     */
    public static function demand(int $rows, int $terms, int $copies): void
    {
        $limit = ini_parse_quantity((string) \ini_get('memory_limit'));
        $need = self::CELL * (float) $rows * $terms * $copies;
        if ($limit > 0 && $need > $limit - memory_get_usage()) {
            throw new CannotFit(\sprintf('%s terms for %s rows need about %.1f GB of memory, and %.1f GB may be used. Leave out categories with many values, or use a part of the rows.', number_format($terms), number_format($rows), $need / 2 ** 30, $limit / 2 ** 30));
        }
    }
}
