<?php

declare(strict_types=1);

namespace App\Operation;

use App\Account\Audit;
use App\Register\Columns;
use App\Service\Inputs;
use App\Storage\CellStore;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\TableReader;
use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Format\Dialect;
use Psr\Cache\CacheItemPoolInterface;
use Symfony\Component\Filesystem\Filesystem;

/**
 * Erases what is known of one person, by the value of a key: in every table that has that column their cells become empty, in the source as
 * in
 * the cells, so that all other records keep their places; what was written of the value in words goes too. Models stay as they are and are
 * named; so are backups.
 */
final readonly class Erasing
{
    private const BLOCK = 1 << 20;
    private const GONE = '(erased)';

    public function __construct(
        private EntityManagerInterface $entities,
        private Connection $connection,
        private CellStore $store,
        private TableReader $reader,
        private Columns $columns,
        private Inputs $inputs,
        private Audit $audit,
        private string $dataDirectory,
        private CacheItemPoolInterface $kept,
    ) {
    }

    /**
     * @return array<int, list<int>> rows of each table that holds the value, by the table's number
     */
    public function found(string $column, string $value): array
    {
        $out = [];
        foreach ($this->entities->getRepository(DataTable::class)->findBy(['state' => DataTable::READY], ['id' => 'ASC']) as $table) {
            $own = $table->column($column);
            if (null === $own) {
                continue;
            }
            $cells = $this->reader->column($own);
            $rows = [];
            for ($row = 0; $row < $table->rows(); ++$row) {
                if ($cells->text($row) === $value) {
                    $rows[] = $row;
                }
            }
            if ([] !== $rows) {
                $out[$table->id()] = $rows;
            }
        }

        return $out;
    }

    /**
     * @param array<int, list<int>> $found as found() gave
     *
     * @return list<string> what was done, in sentences
     */
    public function erase(string $column, string $value, array $found, string $by): array
    {
        $says = [];
        foreach ($found as $id => $rows) {
            $table = $this->entities->find(DataTable::class, $id) ?? throw new \LogicException('The table is gone.');
            $this->connection->transactional(fn () => $this->blank($table, array_fill_keys($rows, true)));
            $says[] = \sprintf(
                '%s of study %d: %d %s emptied.',
                $table->name(),
                $table->study()->id(),
                \count($rows),
                1 === \count($rows) ? 'record' : 'records',
            );
        }
        $words = $this->words($value);
        $lines = $this->inputs->without($value);
        $this->kept->clear();
        // What an earlier version kept under other names goes with it.
        (new Filesystem())->remove($this->dataDirectory.'/cache');
        $says[] = \sprintf('%d sentences and narrowings, %d calls of services; what was computed ahead is computed anew.', $words, $lines);
        array_push($says, ...$this->stays($found));
        $this->audit->note($by, \sprintf(
            'erased %d records by %s, whose value has the fingerprint %s',
            array_sum(array_map(\count(...), $found)),
            $column,
            substr(hash('sha256', $value), 0, 16),
        ));

        return $says;
    }

    /** @param array<int, true> $rows */
    private function blank(DataTable $table, array $rows): void
    {
        $names = array_map(static fn (TableColumn $c): string => $c->name(), $table->columns());
        $dialect = Dialect::fromArray([
            'encoding' => 'UTF-8', 'delimiter' => ',', 'quote' => '"', 'header' => true, 'carriageReturns' => false,
            'skip' => 0, 'comment' => '', 'form' => Dialect::TEXT,
        ] + $table->dialect()->toArray());
        $hash = hash_init('xxh128');
        $file = tmpfile() ?: throw new \RuntimeException('There is no room to write the table anew.');
        $bytes = 0;
        /** @param list<?string> $cells */
        $put = static function (array $cells) use ($file, $hash, &$bytes): void {
            // An empty line would be read as none.
            $line = [''] === $cells ? "\"\"\r\n" : CsvWriter::line(array_values($cells), false);
            hash_update($hash, $line);
            $bytes += (int) fwrite($file, $line);
        };
        $put($names);
        foreach ($this->records($table) as $row => $cells) {
            $put(isset($rows[$row]) ? array_fill(0, \count($cells), '') : $cells);
        }
        hash_update($hash, json_encode($dialect->toArray(), \JSON_THROW_ON_ERROR));
        $this->store->forgetSource($table->id());
        rewind($file);
        for ($block = 0; '' !== $part = (string) stream_get_contents($file, self::BLOCK); ++$block) {
            $this->store->writeSource($table->id(), $block, $part);
        }
        fclose($file);
        $table->rewrite($dialect, $bytes, hash_final($hash));
        $this->columns->reread($table);
        $this->entities->flush();
    }

    /** @return \Generator<int, list<?string>> each record as its source has it, or as it is kept where it was made here */
    private function records(DataTable $table): \Generator
    {
        if (!$this->store->source($table->id())->valid()) {
            $columns = array_map($this->reader->column(...), $table->columns());
            for ($row = 0; $row < $table->rows(); ++$row) {
                yield $row => array_map(static fn ($c): ?string => $c->text($row), $columns);
            }

            return;
        }
        $row = 0;
        foreach ($table->dialect()->reader(fn () => $this->store->source($table->id()))->batches() as $batch) {
            for ($i = 0; $i < $batch->rows; ++$i) {
                yield $row++ => array_map(static fn (array $cells): string => $cells[$i], $batch->columns);
            }
        }
    }

    /** What was written with the value in it: the logbook, narrowings that were kept, work that is over. */
    private function words(string $value): int
    {
        $changed = 0;
        foreach ([
            'log_entry' => 'sentence',
            'named_selection' => 'query',
            'recheck' => 'asked',
            'routine' => 'last',
            'job' => 'title',
        ] as $table => $column) {
            foreach ($this->connection->fetchAllKeyValue(
                "SELECT id, $column FROM $table WHERE $column LIKE ?",
                ['%'.addcslashes($value, '%_\\').'%'],
            ) as $id => $text) {
                if (\is_string($text) && str_contains($text, $value)) {
                    $changed += (int) $this->connection->executeStatement(
                        "UPDATE $table SET $column = ? WHERE id = ?",
                        [str_replace($value, self::GONE, $text), $id],
                    );
                }
            }
        }

        return $changed;
    }

    /**
     * What still knows of the person.
     *
     * @param array<int, list<int>> $found
     *
     * @return list<string>
     */
    private function stays(array $found): array
    {
        $says = [];
        foreach ($this->connection->fetchAllKeyValue(
            'SELECT t.id, t.number FROM trial t JOIN question q ON q.study_id = t.study_id WHERE q.table_id IN ('
                .implode(', ', [0, ...array_keys($found)]).") AND t.state = 'done' ORDER BY t.id",
        ) as $number) {
            $says[] = \sprintf(
                'Trial %s learned from these records and is stale: fit it again, and withdraw its approval where it may not be used.',
                \is_scalar($number) ? (string) $number : '',
            );
        }
        foreach (glob($this->dataDirectory.'/backups/*') ?: [] as $backup) {
            if (!str_ends_with($backup, '.key') && !str_ends_with($backup, '.sha256')) {
                $says[] = \sprintf('The backup %s still holds them.', basename($backup));
            }
        }
        $says[] = 'Backups that were written elsewhere hold them until they are deleted.';

        return $says;
    }
}
