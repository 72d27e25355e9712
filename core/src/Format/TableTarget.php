<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\Kind;

/**
 * Writes records as a table of a database (PostgreSQL or SQLite): into a table beside it first, read back and compared, and put in its
 * place in
 * the same transaction. Nothing is there by half, and appending by a key never doubles a record.
 */
final readonly class TableTarget
{
    public const CREATE = 'create';
    public const REPLACE = 'replace';
    public const APPEND = 'append';
    private const TOGETHER = 200;
    /** PostgreSQL cuts longer names. */
    private const LONGEST = 55;

    public function __construct(private \PDO $database)
    {
        $database->setAttribute(\PDO::ATTR_ERRMODE, \PDO::ERRMODE_EXCEPTION);
    }

    private function isPostgres(): bool
    {
        return 'pgsql' === $this->database->getAttribute(\PDO::ATTR_DRIVER_NAME);
    }

    private static function quoted(string $name): string
    {
        return '"'.str_replace('"', '""', $name).'"';
    }

    /** The type that a column gets. */
    public function type(Kind $kind): string
    {
        return match ($kind) {
            Kind::Number => $this->isPostgres() ? 'double precision' : 'REAL',
            Kind::YesNo => $this->isPostgres() ? 'boolean' : 'INTEGER',
            Kind::Date => $this->isPostgres() ? 'timestamp' : 'TEXT',
            default => $this->isPostgres() ? 'text' : 'TEXT',
        };
    }

    /** @return ?list<string> names of its columns; null where there is no such table */
    public function columns(string $table): ?array
    {
        self::named($table);
        $sql = $this->isPostgres()
            ? 'SELECT column_name FROM information_schema.columns WHERE table_schema = current_schema() AND table_name = ? ORDER BY ordinal_position'
            : 'SELECT name FROM pragma_table_info(?)';
        $statement = $this->database->prepare($sql);
        $statement->execute([$table]);
        /** @var list<string> $names */
        $names = $statement->fetchAll(\PDO::FETCH_COLUMN);

        return [] === $names ? null : $names;
    }

    /** @throws CannotWrite A table name … */
    private static function named(string $table): void
    {
        if (1 !== preg_match('/^[\pL_][\pL\pN_ ]*$/u', $table) || \strlen($table) > self::LONGEST) {
            throw new CannotWrite(\sprintf(
                'A table name begins with a letter and holds letters, digits, spaces and underscores, %d bytes at most.',
                self::LONGEST,
            ));
        }
    }

    /**
     * @param list<string>            $names
     * @param list<Kind>              $kinds
     * @param iterable<list<?string>> $records
     * @param ?string                 $key     column that tells records apart; needed to append
     *
     * @return array{written: int, there: int, checksum: string} records written now, those in the table after it, and what was read back
     *
     * @throws CannotWrite where the table is there, or not, or has other columns; nothing was changed
     */
    public function write(string $table, array $names, array $kinds, iterable $records, string $mode, ?string $key = null): array
    {
        $there = $this->columns($table);
        if (self::CREATE === $mode && null !== $there) {
            throw new CannotWrite(\sprintf('There is a table %s already: replace it, append to it, or choose another name.', $table));
        }
        if (self::APPEND === $mode && (null === $key || !\in_array($key, $names, true))) {
            throw new CannotWrite('To append, say which column tells records apart: a record that is there is not written again.');
        }
        if (self::APPEND === $mode && null !== $there && [] !== array_diff($names, $there)) {
            throw new CannotWrite(\sprintf('The table %s has no column %s.', $table, implode(', ', array_diff($names, $there))));
        }
        $new = self::quoted($table.'__new');
        $this->database->beginTransaction();
        try {
            $this->database->exec('DROP TABLE IF EXISTS '.$new);
            $this->database->exec(\sprintf('CREATE TABLE %s (%s)', $new, implode(', ', array_map(
                fn (string $name, Kind $kind): string => self::quoted($name).' '.$this->type($kind),
                $names,
                $kinds,
            ))));
            [$count, $sum] = $this->insert($new, $names, $kinds, $records);
            [$readCount, $readSum] = $this->readBack($new, $names, $kinds);
            if ($count !== $readCount || $sum !== $readSum) {
                throw new CannotWrite(\sprintf(
                    'The database gave back %s records where %s were written, or others. Nothing was changed.',
                    number_format($readCount),
                    number_format($count),
                ));
            }
            $written = self::APPEND === $mode && null !== $there
                ? $this->append($table, $new, $names, (string) $key)
                : $this->put($table, $new, $count);
            $all = $this->count('SELECT count(*) FROM '.self::quoted($table));
            $this->database->commit();

            return ['written' => $written, 'there' => $all, 'checksum' => $sum];
        } catch (\PDOException $e) {
            $this->database->rollBack();
            throw new CannotWrite('The database says: '.self::said($e).' Nothing was changed.', 0, $e);
        } catch (\Throwable $e) {
            $this->database->rollBack();
            throw $e;
        }
    }

    private function count(string $sql): int
    {
        $told = $this->database->query($sql);
        $count = false === $told ? 0 : (int) $told->fetchColumn();
        // An open cursor would hold the table.
        false === $told || $told->closeCursor();

        return $count;
    }

    private static function said(\PDOException $e): string
    {
        $line = strtok(\is_string($e->errorInfo[2] ?? null) ? $e->errorInfo[2] : $e->getMessage(), "\n");

        return rtrim(trim((string) preg_replace('/^ERROR:\s*/', '', (string) $line)), '.').'.';
    }

    private function put(string $table, string $new, int $count): int
    {
        $this->database->exec('DROP TABLE IF EXISTS '.self::quoted($table));
        $this->database->exec(\sprintf('ALTER TABLE %s RENAME TO %s', $new, self::quoted($table)));

        return $count;
    }

    /** @param list<string> $names */
    private function append(string $table, string $new, array $names, string $key): int
    {
        $columns = implode(', ', array_map(self::quoted(...), $names));
        [$own, $by] = [self::quoted($table), self::quoted($key)];
        if (0 !== $this->count("SELECT count(*) - count(DISTINCT $by) FROM $new")) {
            throw new CannotWrite(\sprintf('%s does not tell the records apart: some have the same, or none. Nothing was changed.', $key));
        }
        $written = $this->database->exec(\sprintf(
            'INSERT INTO %s (%s) SELECT %s FROM %s AS n WHERE NOT EXISTS (SELECT 1 FROM %s AS t WHERE t.%s = n.%s)',
            $own,
            $columns,
            implode(', ', array_map(static fn (string $n): string => 'n.'.self::quoted($n), $names)),
            $new,
            $own,
            $by,
            $by,
        ));
        $this->database->exec('DROP TABLE '.$new);

        return (int) $written;
    }

    /**
     * @param list<string>            $names
     * @param list<Kind>              $kinds
     * @param iterable<list<?string>> $records
     *
     * @return array{int, string} how many, and a checksum of them in whatever order
     */
    private function insert(string $table, array $names, array $kinds, iterable $records): array
    {
        $count = 0;
        $sum = str_repeat("\0", 16);
        $waiting = [];
        // SQLite takes some 32,000 values in a statement.
        $together = max(1, min(self::TOGETHER, intdiv(30_000, max(1, \count($names)))));
        $full = $this->inserting($table, $names, $together);
        foreach ($records as $cells) {
            foreach ($cells as $i => $cell) {
                $waiting[] = $this->value($cell, $kinds[$i]);
            }
            $sum ^= self::hash(array_map(self::plain(...), $cells, $kinds));
            ++$count;
            if (0 === $count % $together) {
                $full->execute($waiting);
                $waiting = [];
            }
        }
        if ([] !== $waiting) {
            $this->inserting($table, $names, $count % $together)->execute($waiting);
        }

        return [$count, bin2hex($sum)];
    }

    /** @param list<string> $names */
    private function inserting(string $table, array $names, int $rows): \PDOStatement
    {
        $one = '('.implode(', ', array_fill(0, \count($names), '?')).')';

        return $this->database->prepare(\sprintf(
            'INSERT INTO %s (%s) VALUES %s',
            $table,
            implode(', ', array_map(self::quoted(...), $names)),
            implode(', ', array_fill(0, max(1, $rows), $one)),
        )) ?: throw new CannotWrite('The database takes no records. Nothing was changed.');
    }

    private function value(?string $cell, Kind $kind): float|int|string|null
    {
        return match (true) {
            null === $cell => null,
            Kind::Number === $kind => is_numeric($cell) ? (float) $cell : null,
            Kind::YesNo === $kind => true === CellParser::yesNo($cell) ? ($this->isPostgres() ? 'true' : 1) : ($this->isPostgres() ? 'false' : 0),
            default => $cell,
        };
    }

    /** A cell as it is compared: a number by its double, a moment to the second, yes or no. */
    private static function plain(float|int|string|bool|null $cell, Kind $kind): ?string
    {
        return match (true) {
            null === $cell => null,
            Kind::Number === $kind => is_numeric($cell) ? bin2hex(pack('E', (float) $cell)) : null,
            Kind::YesNo === $kind => true === $cell || 1 === $cell || (\is_string($cell) && (CellParser::yesNo($cell) ?? '1' === $cell)) ? 'yes' : 'no',
            Kind::Date === $kind => substr(str_pad(str_replace('T', ' ', (string) $cell), 19, ' 00:00:00'), 0, 19),
            default => (string) $cell,
        };
    }

    /** @param list<?string> $cells */
    private static function hash(array $cells): string
    {
        return hash('xxh128', implode("\1", array_map(static fn (?string $c): string => null === $c ? "\2" : $c, $cells)), true);
    }

    /**
     * @param list<string> $names
     * @param list<Kind>   $kinds
     *
     * @return array{int, string}
     */
    private function readBack(string $table, array $names, array $kinds): array
    {
        $statement = $this->database->query(\sprintf('SELECT %s FROM %s', implode(', ', array_map(self::quoted(...), $names)), $table));
        $count = 0;
        $sum = str_repeat("\0", 16);
        while (false !== $statement && \is_array($row = $statement->fetch(\PDO::FETCH_NUM))) {
            /** @var list<float|int|string|bool|null> $row */
            $sum ^= self::hash(array_map(self::plain(...), $row, $kinds));
            ++$count;
        }

        return [$count, bin2hex($sum)];
    }
}
