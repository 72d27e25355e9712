<?php

declare(strict_types=1);

namespace App\Table;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Logbook\Logbook;
use App\Storage\CellStore;
use App\Storage\ChunkSink;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Progress;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/** Reads an uploaded file into a table. Until its last step the table is "importing" and nobody sees it. */
final readonly class ImportRunner implements PieceRunner
{
    public const KIND = 'import';

    public function __construct(private EntityManagerInterface $entities, private CellStore $store, private Uploads $uploads, private Logbook $logbook)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $table = $this->entities->find(DataTable::class, $job->subject());
        if (null === $table || $table->isReady()) {
            return;
        }
        $upload = $piece->payload()['upload'] ?? 0;
        $path = $this->uploads->path(\is_int($upload) ? $upload : 0);
        $this->store->discard($table->id());
        $file = new CsvFile($path);
        $hash = hash_init('xxh128');
        $first = true;
        $blocks = function () use ($file, $table, $hash, &$first): \Generator {
            $keep = $first;
            $first = false;
            foreach ($file->blocks() as $n => $block) {
                if ($keep) {
                    $this->store->writeSource($table->id(), $n, $block);
                    hash_update($hash, $block);
                }
                yield $block;
            }
        };
        $sink = new ChunkSink($this->store, $table->id());
        $imported = (new TableImporter($table->dialect(), $sink))->import($blocks, [], null, $table->bytes(), $progress);
        $sink->flush();
        foreach ($imported->columns as $position => $encoded) {
            $column = new TableColumn($table, $position, $imported->names[$position]);
            $column->describe($encoded->kind, $encoded->kind->isCoded() || [] !== $encoded->levels ? $encoded->levels : [], $encoded->profile, $encoded->misfits, $encoded->misfitCount);
            if (Kind::Identifier === $encoded->kind) {
                $column->changeUse(ColumnUse::Key);
            }
            $table->addColumn($column);
        }
        hash_update($hash, json_encode($table->dialect()->toArray(), \JSON_THROW_ON_ERROR));
        $table->becomeReady($imported->rows, hash_final($hash), $imported->repairs);
        if (null === $table->study()->table()) {
            $table->study()->useTable($table);
        }
        $this->logbook->write($table->study(), $job->user(), 'table', \sprintf('Imported %s as %s: %s records, %d columns%s.', $table->fileName(), $table->name(), number_format($table->rows()), \count($imported->names), [] === $imported->repairs ? ', nothing repaired' : \sprintf(', %d repairs named', \count($imported->repairs))));
        $this->entities->flush();
        $this->uploads->discard(\is_int($upload) ? $upload : 0);
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $table = $this->entities->find(DataTable::class, $job->subject());
        if (null !== $table && !$table->isReady()) {
            $this->store->discard($table->id());
            $table->fail();
            $this->entities->flush();
        }
    }
}
