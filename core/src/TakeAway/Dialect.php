<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Table\Kind;

/** What one database writes otherwise than another. */
enum Dialect: string
{
    case PostgreSql = 'PostgreSQL';
    case Sqlite = 'SQLite';

    /** Bytes of a query: SQLite reads a million; of PostgreSQL what it takes apart without harm. */
    public function longest(): int
    {
        return self::PostgreSql === $this ? 24_000_000 : 1_000_000;
    }

    public function number(float $v): string
    {
        // 17 digits tell every double from every other.
        $text = \sprintf('%.17G', $v);

        return self::PostgreSql === $this ? "'".$text."'::float8" : (preg_match('/[.E]/', $text) ? $text : $text.'.0');
    }

    /** A number below all others, or above them. */
    public function endless(bool $below): string
    {
        return self::PostgreSql === $this ? "'".($below ? '-' : '')."Infinity'::float8" : ($below ? '-' : '').'9e999';
    }

    public function text(string $v): string
    {
        return "'".str_replace("'", "''", $v)."'";
    }

    public function name(string $v): string
    {
        return '"'.str_replace('"', '""', $v).'"';
    }

    public function missing(bool $isText): string
    {
        return self::PostgreSql === $this ? ($isText ? 'NULL::text' : 'NULL::float8') : 'NULL';
    }

    /** @param list<string> $of */
    public function least(array $of): string
    {
        return self::PostgreSql === $this ? self::unlessMissing('LEAST', $of) : 'MIN('.implode(', ', $of).')';
    }

    /** @param list<string> $of */
    public function greatest(array $of): string
    {
        return self::PostgreSql === $this ? self::unlessMissing('GREATEST', $of) : 'MAX('.implode(', ', $of).')';
    }

    /**
     * PostgreSQL leaves out what is missing; here that makes all of it missing. They are names and constants: Hoist sees to that.
     *
     * @param list<string> $of
     */
    private static function unlessMissing(string $function, array $of): string
    {
        $names = array_filter($of, static fn (string $o): bool => !str_starts_with($o, "'"));
        $missing = implode(' OR ', array_map(static fn (string $o): string => $o.' IS NULL', $names));
        $call = $function.'('.implode(', ', $of).')';

        return [] === $names ? $call : "CASE WHEN $missing THEN NULL ELSE $call END";
    }

    /** Keeps what is worked out in a subquery from being worked out again for every use. */
    public function fence(): string
    {
        return self::PostgreSql === $this ? ' OFFSET 0' : ' LIMIT -1 OFFSET 0';
    }

    /** A column of a table as it is read: an empty text and what is no number are missing; dates are days since 1970. */
    public function read(string $column, Kind $kind): string
    {
        $c = $this->name($column);
        if (self::Sqlite === $this) {
            $empty = "$c IS NULL OR TRIM(CAST($c AS TEXT)) = ''";

            return match ($kind) {
                Kind::Number => "CASE WHEN $empty THEN NULL ELSE CAST($c AS REAL) END",
                Kind::Date => "CASE WHEN $empty THEN NULL ELSE CAST(strftime('%s', $c) AS INTEGER) / 86400.0 END",
                default => "CASE WHEN $empty THEN NULL ELSE CAST($c AS TEXT) END",
            };
        }

        return match ($kind) {
            Kind::Number => "NULLIF(NULLIF(TRIM($c::text), '')::float8, 'NaN')",
            Kind::Date => "EXTRACT(EPOCH FROM NULLIF(TRIM($c::text), '')::timestamp)::float8 / 86400",
            default => "NULLIF($c::text, '')",
        };
    }

    /** The same for a column that holds numbers already, which need not pass through text. */
    public function readsNumber(string $column): string
    {
        return self::Sqlite === $this ? 'CAST('.$this->name($column).' AS REAL)' : 'NULLIF('.$this->name($column)."::float8, 'NaN')";
    }
}
