<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** What a database runs: one query, and where that would be longer than it reads, tables of nodes before it. */
final readonly class Script
{
    /** @param list<string> $before statements to run first, in the same session */
    private function __construct(public array $before, public string $query, private Dialect $dialect)
    {
    }

    /**
     * @param string       $from    as Sql::select() takes it
     * @param list<string> $keys    columns of the table that come along
     * @param list<string> $numbers columns of the table that hold numbers by their type
     * @param ?int         $longest bytes of a query; what the database reads where null
     */
    public static function of(
        Program $program,
        Dialect $dialect,
        string $from,
        array $keys = [],
        array $numbers = [],
        ?int $longest = null,
    ): self {
        $query = (new Sql($program, $dialect, $keys, null, $numbers))->select($from);
        if (\strlen($query) <= ($longest ?? $dialect->longest())) {
            return new self([], $query, $dialect);
        }
        $nodes = new NodeTable($dialect);
        $query = (new Sql($program, $dialect, $keys, null, $numbers, $nodes))->select($from);

        return new self($nodes->statements(), $query, $dialect);
    }

    public function run(\PDO $pdo): void
    {
        $this->clear($pdo);
        foreach ($this->before as $statement) {
            $pdo->exec($statement);
        }
    }

    /** Only tables of the session are named so that they can go: one of somebody else by the same name stays. */
    public function clear(\PDO $pdo): void
    {
        foreach ([] === $this->before ? [] : ['dokimos_nodes', 'dokimos_texts'] as $table) {
            $pdo->exec('DROP TABLE IF EXISTS '.(Dialect::PostgreSql === $this->dialect ? 'pg_temp.' : 'temp.').$table);
        }
    }

    public function text(): string
    {
        return implode('', array_map(static fn (string $s): string => $s.";\n", [...$this->before, $this->query]));
    }
}
