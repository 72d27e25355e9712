<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/**
 * A model scores a table, or a query, where it lies: rows never leave the database but for a sample on which its answers are held against
 * ours.
 * The result is a table there, made in one transaction, or none. Definition: docs/methods/take-away.md.
 */
final readonly class InDatabase
{
    private const CHECKED = 300;
    private const NUMBERS = ['int2', 'int4', 'int8', 'float4', 'float8', 'numeric', 'integer', 'real', 'double'];

    /** @param ?int $longest as Script has it */
    public function __construct(private \PDO $pdo, private Dialect $dialect, private ?int $longest = null)
    {
        $pdo->setAttribute(\PDO::ATTR_ERRMODE, \PDO::ERRMODE_EXCEPTION);
    }

    /**
     * @param string       $from a table, with its schema or without, or a query that begins with SELECT or WITH
     * @param list<string> $keys columns that come along
     * @param string       $into a new table, with its schema or without
     *
     * @return array{rows: int, seconds: float, proof: Proof}
     *
     * @throws CannotExpress where the model cannot be written as SQL, the database refuses, or its answers are others
     */
    public function score(ScoringModel $model, string $from, array $keys, string $into): array
    {
        $program = Program::of($model);
        $source = $this->source($from);
        $target = $this->named($into);
        $began = hrtime(true);
        try {
            $this->pdo->beginTransaction();
            if (Dialect::PostgreSql === $this->dialect) {
                $this->pdo->exec('SET LOCAL jit = off');
            }
            $types = $this->types($source);
            $lacking = array_values(array_diff([...array_map(strval(...), array_keys($program->inputs)), ...$keys], array_keys($types)));
            if ([] !== $lacking) {
                throw new CannotExpress(\sprintf('%s has no column %s.', $from, implode(', ', $lacking)));
            }
            $numbers = array_values(
                array_filter(
                    array_map(strval(...), array_keys($types)),
                    static fn (string $n): bool => \in_array($types[$n], self::NUMBERS, true),
                ),
            );
            $proof = $this->checked($model, $program, $source, $numbers);
            if (!$proof->holds()) {
                throw new CannotExpress($proof->sentence().' Nothing was written.');
            }
            $script = Script::of($program, $this->dialect, $source, $keys, $numbers, $this->longest);
            $script->run($this->pdo);
            $this->run('CREATE TABLE '.$target.' AS '.$script->query);
            $script->clear($this->pdo);
            $count = $this->pdo->query('SELECT COUNT(*) FROM '.$target);
            $rows = false === $count ? 0 : (int) $count->fetchColumn();
            $this->pdo->commit();
        } catch (\Throwable $e) {
            if ($this->pdo->inTransaction()) {
                $this->pdo->rollBack();
            }
            throw $e instanceof \PDOException ? new CannotExpress('The database says: '.self::said($e).' Nothing was written.', 0, $e) : $e;
        }

        return ['rows' => $rows, 'seconds' => (hrtime(true) - $began) / 1e9, 'proof' => $proof];
    }

    private static function said(\PDOException $e): string
    {
        $said = \is_array($e->errorInfo) && \is_string($e->errorInfo[2] ?? null) ? $e->errorInfo[2] : $e->getMessage();

        return rtrim(trim((string) preg_replace(['/^ERROR:\s*/', '/\nLINE.*$/s'], '', $said)), '.').'.';
    }

    /** One statement and no more: what is prepared cannot hold a second one. */
    private function run(string $sql): \PDOStatement
    {
        $statement = $this->pdo->prepare($sql);
        $statement->execute();

        return $statement;
    }

    /** @throws CannotExpress */
    private function source(string $from): string
    {
        if (1 === preg_match('/^\s*(select|with)\b/i', $from)) {
            if (str_contains(rtrim(trim($from), ';'), ';')) {
                throw new CannotExpress('A query is one statement: leave out what comes after the semicolon.');
            }

            return '('.rtrim(trim($from), ';').') source';
        }

        return $this->named($from);
    }

    private function named(string $name): string
    {
        $parts = explode('.', trim($name), 2);
        if ('' === $parts[0] || '' === ($parts[1] ?? 'x')) {
            throw new CannotExpress('Name the table: visits, or schema.visits.');
        }

        return implode('.', array_map($this->dialect->name(...), $parts));
    }

    /** @return array<array-key, string> type by column */
    private function types(string $source): array
    {
        // SQLite tells types by a row only.
        $statement = $this->run("SELECT * FROM $source LIMIT 1");
        $statement->fetch(\PDO::FETCH_NUM);
        $out = [];
        for ($i = 0, $n = $statement->columnCount(); $i < $n; ++$i) {
            $meta = $statement->getColumnMeta($i);
            $out[\is_array($meta) ? $meta['name'] : ''] = \is_array($meta) && \is_string($meta['native_type'] ?? null)
                ? $meta['native_type']
                : '';
        }

        return $out;
    }

    /** @param list<string> $numbers */
    private function checked(ScoringModel $model, Program $program, string $source, array $numbers): Proof
    {
        $this->run(\sprintf(
            'CREATE TEMPORARY TABLE dokimos_sample AS SELECT ROW_NUMBER() OVER () AS dokimos_place, s.* FROM (SELECT * FROM %s LIMIT %d) s',
            $source,
            self::CHECKED,
        ));
        try {
            $cells = array_fill_keys(array_keys($program->inputs), []);
            $list = implode(', ', array_map(fn (int|string $n): string => $this->dialect->name((string) $n), array_keys($cells)));
            $rows = 0;
            foreach ($this->run(
                'SELECT '.('' === $list ? '1' : $list).' FROM dokimos_sample ORDER BY dokimos_place',
            )->fetchAll(\PDO::FETCH_NUM) as $line) {
                /** @var list<bool|float|int|string|null> $line */
                ++$rows;
                foreach (array_keys($cells) as $i => $name) {
                    $cells[$name][] = $line[$i];
                }
            }
            $columns = [];
            foreach ($program->inputs as $name => $kind) {
                $columns[$name] = self::column($kind, $cells[$name]);
            }
            $table = Table::of($columns, $rows);
            $wanted = $model->answers($model->select($table, $model->byName()));
            $found = [];
            $script = Script::of($program, $this->dialect, 'dokimos_sample', ['dokimos_place'], $numbers, $this->longest);
            $script->run($this->pdo);
            foreach ($this->run($script->query.' ORDER BY 1')->fetchAll(\PDO::FETCH_NUM) as $line) {
                /** @var list<float|int|string|null> $line */
                $found[] = array_map(
                    static fn (float|int|string|null $v): ?float => null === $v ? null : (float) $v,
                    \array_slice($line, 1),
                );
            }

            return Proof::onRows($this->dialect->value, $wanted, $found, 1e-9);
        } finally {
            $this->pdo->exec('DROP TABLE dokimos_sample');
        }
    }

    /** @param list<bool|float|int|string|null> $cells as the database gives them */
    private static function column(Kind $kind, array $cells): Column
    {
        $texts = array_map(static fn (bool|float|int|string|null $v): ?string => match (true) {
            null === $v, '' === $v => null,
            \is_bool($v) => $v ? 'true' : 'false',
            \is_float($v) => NumberColumn::write($v),
            default => (string) $v,
        }, $cells);

        return Kind::Number === $kind
            ? new NumberColumn(array_map(static fn (?string $t): float => null === $t || !is_numeric(trim($t)) ? \NAN : (float) $t, $texts))
            : new TextColumn($texts);
    }
}
