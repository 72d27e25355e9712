<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** What a model is taken away as. */
enum Form: string
{
    case PostgreSql = 'sql-postgresql';
    case Sqlite = 'sql-sqlite';
    case Onnx = 'onnx';
    case Json = 'json';
    case Card = 'card';

    public function title(): string
    {
        return match ($this) {
            self::PostgreSql => 'SQL for PostgreSQL',
            self::Sqlite => 'SQL for SQLite',
            self::Onnx => 'ONNX',
            self::Json => 'JSON',
            self::Card => 'Rule card',
        };
    }

    public function extension(): string
    {
        return match ($this) {
            self::PostgreSql, self::Sqlite => 'sql',
            self::Onnx => 'onnx',
            self::Json => 'json',
            self::Card => 'txt',
        };
    }

    /** How far an answer may be from ours. */
    public function within(): float
    {
        return match ($this) {
            self::Onnx => 1e-5,
            // As many digits as a person copies.
            self::Card => 1e-7,
            default => 1e-9,
        };
    }
}
