<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * A query that draws a sample where the data lie, the same records every time: by a hash of a key, or so many of each value of a column
 * with
 * the weight that brings them back to how many there are. Written for PostgreSQL.
 */
final class ServerSample
{
    /** Column of the weights. */
    public const WEIGHT = 'sample_weight';

    /**
     * @param string $from  a table, with its schema or without, or a query
     * @param float  $share of the records, from 0 to 1; what has the same key is drawn together
     *
     * @throws UnreadableTable
     */
    public static function hashed(string $from, string $key, float $share): string
    {
        if (!($share > 0.0 && $share < 1.0)) {
            throw new UnreadableTable('A sample is more than nothing and less than all: a share between 0 and 1.');
        }

        return \sprintf('SELECT * FROM %s WHERE %s < %d', self::source($from), self::hash($key), (int) round($share * 4_294_967_296));
    }

    /**
     * @param int $each records of each value of the column, at most
     *
     * @throws UnreadableTable
     */
    public static function stratified(string $from, string $key, string $by, int $each): string
    {
        if ($each < 1) {
            throw new UnreadableTable('Of each value at least one record is drawn.');
        }
        $column = self::named($by);

        return \sprintf(
            'SELECT *, dokimos_all::float8 / LEAST(dokimos_all, %d) AS %s'
            .' FROM (SELECT source.*, ROW_NUMBER() OVER (PARTITION BY %s ORDER BY %s, %s::text) AS dokimos_place,'
            .' COUNT(*) OVER (PARTITION BY %s) AS dokimos_all FROM %s) drawn WHERE dokimos_place <= %d',
            $each,
            self::WEIGHT,
            $column,
            self::hash($key),
            self::named($key),
            $column,
            self::source($from),
            $each,
        );
    }

    /** A whole number from 0 to 2^32 - 1 that looks drawn by lot, and is the same for the same key. */
    private static function hash(string $key): string
    {
        return \sprintf("('x' || SUBSTR(MD5(%s::text), 1, 8))::bit(32)::bigint", self::named($key));
    }

    private static function source(string $from): string
    {
        if (1 === preg_match('/^\s*(select|with)\b/i', $from)) {
            return '('.rtrim(trim($from), "; \n").') source';
        }

        return implode('.', array_map(self::named(...), explode('.', trim($from), 2))).' source';
    }

    /** @throws UnreadableTable */
    private static function named(string $name): string
    {
        return '' === trim($name) ? throw new UnreadableTable(
            'Say which table, and which column is the key.',
        ) : '"'.str_replace('"', '""', trim($name)).'"';
    }
}
