<?php

declare(strict_types=1);

namespace App\Table;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Logbook\Logbook;
use App\Source\Portion;
use App\Source\Upload;
use App\Source\Uploads;
use App\Storage\CellStore;
use App\Storage\ChunkSink;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\EncodedColumn;
use Dokimos\Core\Format\KindGuess;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Progress;
use Dokimos\Core\Table\Kind;
use Psr\EventDispatcher\EventDispatcherInterface;

/** Reads an uploaded file into a table. Until its last step the table is "importing" and nobody sees it. */
final readonly class ImportRunner implements PieceRunner
{
    public const KIND = 'import';
    /** Bytes of the source that are compressed together. */
    private const SOURCE_BLOCK = 1 << 20;
    /** Seconds between finished columns being shown. */
    private const SHOWN_EVERY = 0.5;
    /** Showing them takes at most one part of so many of the time: with thousands of columns it takes longer than this. */
    private const SHOWN_SHARE = 20;

    public function __construct(private EntityManagerInterface $entities, private CellStore $store, private Uploads $uploads, private Logbook $logbook, private Editions $editions, private EventDispatcherInterface $events)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    /**
     * Small files are read by one worker; of large ones two read half of the columns each while the source is put away.
     *
     * @return array<string, array<string, int|string>>
     */
    public static function pieces(Upload $upload, bool $large, Portion $portion, string $sourceLane): array
    {
        $pieces = [];
        $of = ['most' => $portion->most] + (null === $portion->part ? [] : ['part' => $portion->part]);
        for ($i = 0, $n = $large ? 2 : 1; $i < $n; ++$i) {
            $pieces['columns '.$i] = ['upload' => $upload->id(), 'share' => $i, 'of' => $n] + $of;
        }

        return $pieces + ['source' => ['upload' => $upload->id(), 'lane' => $sourceLane] + $of];
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $table = $this->entities->find(DataTable::class, $job->subject());
        if (null === $table || $table->isReady()) {
            return;
        }
        match (true) {
            Piece::JOIN === $piece->key() => $this->join($table, $job),
            'source' === $piece->key() => $this->putSourceAway($table, $piece, $progress),
            default => $this->readColumns($table, $piece, $progress),
        };
    }

    private function file(Piece $piece, Progress $progress): CsvFile
    {
        ['upload' => $upload, 'part' => $part, 'most' => $most] = $piece->payload() + ['upload' => 0, 'part' => null, 'most' => Portion::MOST];

        return new CsvFile($this->uploads->text((int) $upload, new Portion(null === $part ? null : (string) $part, (int) $most), false, $progress));
    }

    private function putSourceAway(DataTable $table, Piece $piece, Progress $progress): void
    {
        $seen = 0;
        foreach ($this->file($piece, $progress)->blocks(self::SOURCE_BLOCK) as $n => $block) {
            $this->store->writeSource($table->id(), $n, $block);
            $seen += \strlen($block);
            $progress->report($seen / max(1, $table->bytes()));
        }
    }

    private function readColumns(DataTable $table, Piece $piece, Progress $progress): void
    {
        ['share' => $share, 'of' => $of] = $piece->payload() + ['share' => 0, 'of' => 1];
        $share = [(int) $share, (int) $of];
        $hash = hash_init('xxh128');
        $first = true;
        $file = $this->file($piece, $progress);
        $blocks = static function () use ($file, $hash, &$first): \Generator {
            $counts = $first;
            $first = false;
            foreach ($file->blocks() as $block) {
                if ($counts) {
                    hash_update($hash, $block);
                }
                yield $block;
            }
        };
        $sink = new ChunkSink($this->store, $table->id());
        $kinds = $this->editions->kinds($table);
        if ($share[1] > 1) {
            $this->lookFirst($table, $file, $kinds, $share);
        }
        $shown = microtime(true) + self::SHOWN_EVERY;
        $imported = (new TableImporter($table->dialect(), $sink))->import($blocks, $kinds, null, $table->bytes(), $progress, $share, function (int $position, string $name, EncodedColumn $encoded) use ($table, &$shown): void {
            $this->keep($table, $position, $name, $encoded);
            $now = microtime(true);
            if ($now > $shown) {
                $this->entities->flush();
                $shown = $now + max(self::SHOWN_EVERY, self::SHOWN_SHARE * (microtime(true) - $now));
            }
        });
        $sink->flush();
        if (0 === $share[0]) {
            hash_update($hash, json_encode($table->dialect()->toArray(), \JSON_THROW_ON_ERROR));
            $table->describe($imported->rows, hash_final($hash), $imported->repairs);
        }
        $this->entities->flush();
    }

    /**
     * Of a large file there is something to see at once: what its beginning says of each column.
     *
     * @param array<string, Kind> $kinds
     * @param array{int, int}     $share
     */
    private function lookFirst(DataTable $table, CsvFile $file, array $kinds, array $share): void
    {
        try {
            $first = TableImporter::first($table->dialect(), $file->blocks(...), $kinds, $share);
        } catch (UnreadableTable) {
            // A file cut short may not be readable where the whole of it is.
            return;
        }
        foreach ($first->columns as $position => $encoded) {
            $this->keep($table, $position, $first->names[$position], $encoded, ['first' => $first->rows]);
        }
        $this->entities->flush();
    }

    /** @param array<string, int> $mark put beside the profile */
    private function keep(DataTable $table, int $position, string $name, EncodedColumn $encoded, array $mark = []): void
    {
        // There may be one of the first look, or of a run that was broken off.
        $column = null;
        foreach ($table->columns() as $known) {
            $column = $known->position() === $position ? $known : $column;
        }
        if (null === $column) {
            $column = new TableColumn($table, $position, $name);
            $table->addColumn($column);
        }
        $column->describe($encoded->kind, $encoded->levels, $encoded->profile + $mark, $encoded->misfits, $encoded->misfitCount);
        $column->changeUse(KindGuess::use($encoded->kind));
    }

    private function join(DataTable $table, Job $job): void
    {
        $this->editions->carryOver($table);
        $table->becomeReady();
        $this->events->dispatch(new TableReady($table));
        $repairs = \count($table->repairs());
        $this->logbook->write($table->study(), $job->user(), 'table', \sprintf('Imported %s as %s: %s records, %d columns%s.', $table->fileName(), $table->name(), number_format($table->rows()), \count($table->columns()), 0 === $repairs ? ', nothing repaired' : \sprintf(', %d repairs named', $repairs)));
        $this->entities->flush();
        $upload = $this->entities->getRepository(Piece::class)->findOneBy(['job' => $job, 'key' => 'source'])?->payload()['upload'] ?? 0;
        $this->uploads->discard(\is_int($upload) ? $upload : 0);
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $table = $this->entities->find(DataTable::class, $job->subject());
        if (null !== $table && !$table->isReady()) {
            $this->store->discard($table->id());
            $table->fail();
            $this->entities->createQuery('DELETE App\Table\TableColumn c WHERE c.table = :table')->setParameter('table', $table)->execute();
            $this->entities->flush();
        }
    }
}
