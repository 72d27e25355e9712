<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\ParameterType;
use Doctrine\DBAL\Platforms\PostgreSQLPlatform;
use Doctrine\DBAL\Schema\Schema;
use Doctrine\DBAL\Schema\Table;
use Doctrine\DBAL\Types\BlobType;
use Doctrine\DBAL\Types\BooleanType;
use Doctrine\DBAL\Types\FloatType;

/** Copies all that an installation keeps from one store to another, and checks every byte of it by reading both once more. */
final readonly class StoreCopy
{
    public function __construct(private Connection $from, private Connection $to, private Schema $schema)
    {
    }

    /**
     * Into a store that is laid out and empty. A server's references are taken off for the time of it: tables refer to each other.
     *
     * @param \Closure(string, int): void $tell each table with its rows, once it is copied and checked
     *
     * @return int rows
     *
     * @throws \RuntimeException where something is there already, or came out otherwise than it was
     */
    public function run(\Closure $tell): int
    {
        $server = $this->to->getDatabasePlatform() instanceof PostgreSQLPlatform;
        foreach ($this->schema->getTables() as $table) {
            if (0 !== self::count($this->to, $table)) {
                throw new \RuntimeException(
                    \sprintf('The other store holds something already: %s is not empty. Nothing was copied.', $table->getName()),
                );
            }
        }

        return $this->to->transactional(function () use ($server, $tell): int {
            $refers = $server ? Baseline::statements(clone $this->schema)[1] : [];
            foreach ($refers as $sql) {
                $this->withoutReference($sql);
            }
            $all = 0;
            foreach ($this->schema->getTables() as $table) {
                $rows = $this->copy($table);
                if ($this->print($this->from, $table) !== $this->print($this->to, $table)) {
                    throw new \RuntimeException(\sprintf('%s came out otherwise than it was. Nothing was copied.', $table->getName()));
                }
                $tell($table->getName(), $rows);
                $all += $rows;
                if ($server && $table->hasColumn('id')) {
                    $this->to->executeStatement(\sprintf(
                        "SELECT setval(pg_get_serial_sequence('%s', 'id'), COALESCE((SELECT MAX(id) FROM %s), 0) + 1, false)",
                        $table->getName(),
                        $table->getName(),
                    ));
                }
            }
            foreach ($refers as $sql) {
                $this->to->executeStatement($sql);
            }

            return $all;
        });
    }

    private function withoutReference(string $sql): void
    {
        preg_match('/ALTER TABLE (\S+) ADD (?:CONSTRAINT (\S+) )?FOREIGN KEY \((\w+)\)/', $sql, $found);
        [, $table, $name, $column] = $found + ['', '', '', ''];
        $this->to->executeStatement(\sprintf(
            'ALTER TABLE %s DROP CONSTRAINT %s',
            $table,
            '' === $name ? $table.'_'.$column.'_fkey' : strtolower($name),
        ));
    }

    private static function count(Connection $of, Table $table): int
    {
        $count = $of->fetchOne('SELECT COUNT(*) FROM '.$table->getName());

        return is_numeric($count) ? (int) $count : 0;
    }

    /** @return int rows */
    private function copy(Table $table): int
    {
        $columns = $table->getColumns();
        $names = array_values(array_map(static fn ($c): string => $c->getName(), $columns));
        $types = array_values(array_map(static fn ($c): ParameterType => match (true) {
            $c->getType() instanceof BlobType => ParameterType::LARGE_OBJECT,
            $c->getType() instanceof BooleanType => ParameterType::BOOLEAN,
            default => ParameterType::STRING,
        }, $columns));
        $into = \sprintf(
            'INSERT INTO %s (%s) VALUES (%s)',
            $table->getName(),
            implode(', ', array_map(static fn (string $n): string => '"'.$n.'"', $names)),
            implode(', ', array_fill(0, \count($names), '?')),
        );
        $rows = 0;
        foreach ($this->rows($this->from, $table) as $row) {
            $this->to->executeStatement($into, $row, $types);
            ++$rows;
        }

        return $rows;
    }

    /** @return \Generator<int, list<bool|float|string|null>> each row in the order of its key, as both stores tell it alike */
    private function rows(Connection $of, Table $table): \Generator
    {
        $columns = array_values($table->getColumns());
        $list = implode(', ', array_map(static fn ($c): string => '"'.$c->getName().'"', $columns));
        $key = implode(', ', $table->getPrimaryKey()?->getColumns() ?? throw new \LogicException($table->getName().' has no key.'));
        foreach ($of->iterateNumeric(\sprintf('SELECT %s FROM %s ORDER BY %s', $list, $table->getName(), $key)) as $row) {
            $out = [];
            foreach ($row as $i => $value) {
                $out[] = match (true) {
                    null === $value => null,
                    \is_resource($value) => (string) stream_get_contents($value),
                    $columns[$i]->getType() instanceof BooleanType => (bool) $value,
                    $columns[$i]->getType() instanceof FloatType => (float) $value,
                    default => (string) $value,
                };
            }
            yield $out;
        }
    }

    /** Of all that a table holds. */
    private function print(Connection $of, Table $table): string
    {
        $hash = hash_init('sha256');
        foreach ($this->rows($of, $table) as $row) {
            foreach ($row as $value) {
                hash_update(
                    $hash,
                    \is_float($value) ? pack('e', $value) : (string) json_encode(\is_string($value) ? \strlen($value) : $value),
                );
                hash_update($hash, \is_string($value) ? $value : '');
            }
        }

        return hash_final($hash);
    }
}
