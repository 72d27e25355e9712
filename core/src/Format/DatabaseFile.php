<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** An SQLite file, opened read-only: tables, views, or one SELECT. Everything that could reach beyond it is denied. */
final class DatabaseFile extends Container
{
    /** What a reading statement needs; everything else, ATTACH and PRAGMA among it, is denied. */
    private const ALLOWED = [\SQLite3::SELECT, \SQLite3::READ, \SQLite3::FUNCTION, \SQLite3::RECURSIVE];
    private const SECONDS = 20;

    public function __construct(private readonly string $path)
    {
    }

    public function what(): string
    {
        return 'database';
    }

    /** @throws UnreadableTable The database holds no table. Nothing was imported. */
    public function parts(): array
    {
        $names = [];
        foreach ($this->records("SELECT name FROM sqlite_master WHERE type IN ('table', 'view') AND name NOT LIKE 'sqlite%' ORDER BY name", 1000) as $i => [$name]) {
            if ($i > 0) {
                $names[] = (string) $name;
            }
        }
        if ([] === $names) {
            throw new UnreadableTable('The database holds no table. Nothing was imported.');
        }

        return $names;
    }

    public function about(string $part): ?int
    {
        if (\in_array($part, $this->parts(), true)) {
            foreach ($this->records('SELECT count(*) FROM '.self::named($part), 1) as $i => [$count]) {
                if ($i > 0) {
                    return (int) $count;
                }
            }
        }

        return null;
    }

    private static function named(string $table): string
    {
        return '"'.str_replace('"', '""', $table).'"';
    }

    /** @throws UnreadableTable There is no table … in the database; name a table or write a SELECT. */
    public function write(string $part, string $to, int $most): void
    {
        $isTable = \in_array($part, $this->parts(), true);
        if (!$isTable && 1 !== preg_match('/^\s*(SELECT|WITH)\b/i', $part)) {
            throw new UnreadableTable(\sprintf('There is no table %s in the database; name a table or write a SELECT.', mb_strimwidth($part, 0, 60, '…')));
        }
        self::put($this->records($isTable ? 'SELECT * FROM '.self::named($part) : $part, $most), $to);
    }

    /** @return \Generator<int, list<?string>> the names, then the records */
    private function records(string $sql, int $most): \Generator
    {
        try {
            $database = new \SQLite3($this->path, \SQLITE3_OPEN_READONLY);
            $database->enableExceptions(true);
            $database->setAuthorizer(static fn (int $action): int => \in_array($action, self::ALLOWED, true) ? \SQLite3::OK : \SQLite3::DENY);
            $statement = $database->prepare($sql);
            if (false === $statement || !$statement->readOnly()) {
                throw new UnreadableTable('Only reading is allowed: write one SELECT.');
            }
            $result = $statement->execute();
            if (false === $result || 0 === $result->numColumns()) {
                throw new UnreadableTable('The statement gives no table.');
            }
            $names = [];
            for ($j = 0; $j < $result->numColumns(); ++$j) {
                $names[] = (string) $result->columnName($j);
            }
            yield $names;
            $until = microtime(true) + self::SECONDS;
            for ($i = 0; $i < $most && false !== $row = $result->fetchArray(\SQLITE3_NUM); ++$i) {
                if (0 === $i % 1000 && microtime(true) > $until) {
                    throw new UnreadableTable(\sprintf('The statement took longer than %d seconds. Narrow it and try again.', self::SECONDS));
                }
                yield array_map(self::text(...), array_values($row));
            }
        } catch (UnreadableTable $e) {
            throw $e;
        } catch (\Exception $e) {
            throw new UnreadableTable(\sprintf('The database says: %s. Nothing was imported.', rtrim(mb_scrub($e->getMessage()), '.')), 0, $e);
        }
    }

    private static function text(mixed $cell): ?string
    {
        return match (true) {
            null === $cell => null,
            \is_float($cell) => json_encode($cell) ?: null,
            \is_scalar($cell) => mb_scrub((string) $cell),
            default => null,
        };
    }
}
