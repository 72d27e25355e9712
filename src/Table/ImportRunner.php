<?php

declare(strict_types=1);

namespace App\Table;

use App\Job\Job;
use App\Job\Jobs;
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
    /** Bytes of the source that are compressed together. */
    private const SOURCE_BLOCK = 1 << 20;

    public function __construct(private EntityManagerInterface $entities, private CellStore $store, private Uploads $uploads, private Logbook $logbook, private Editions $editions)
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
    public static function pieces(Upload $upload, bool $large, Portion $portion): array
    {
        $pieces = [];
        $of = ['most' => $portion->most] + (null === $portion->part ? [] : ['part' => $portion->part]);
        for ($i = 0, $n = $large ? 2 : 1; $i < $n; ++$i) {
            $pieces['columns '.$i] = ['upload' => $upload->id(), 'share' => $i, 'of' => $n] + $of;
        }

        return $pieces + ['source' => ['upload' => $upload->id(), 'lane' => Jobs::QUICK] + $of];
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

    private function file(Piece $piece): CsvFile
    {
        ['upload' => $upload, 'part' => $part, 'most' => $most] = $piece->payload() + ['upload' => 0, 'part' => null, 'most' => Portion::MOST];

        return new CsvFile($this->uploads->text((int) $upload, new Portion(null === $part ? null : (string) $part, (int) $most)));
    }

    private function putSourceAway(DataTable $table, Piece $piece, Progress $progress): void
    {
        $seen = 0;
        foreach ($this->file($piece)->blocks(self::SOURCE_BLOCK) as $n => $block) {
            $this->store->writeSource($table->id(), $n, $block);
            $seen += \strlen($block);
            $progress->report($seen / max(1, $table->bytes()));
        }
    }

    private function readColumns(DataTable $table, Piece $piece, Progress $progress): void
    {
        $share = $piece->payload()['share'] ?? 0;
        $of = $piece->payload()['of'] ?? 1;
        $share = \is_int($share) ? $share : 0;
        $hash = hash_init('xxh128');
        $first = true;
        $file = $this->file($piece);
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
        $imported = (new TableImporter($table->dialect(), $sink))->import($blocks, $this->editions->kinds($table), null, $table->bytes(), $progress, [$share, \is_int($of) ? $of : 1]);
        $sink->flush();
        // A piece that is done again finds the columns of its first run.
        $known = [];
        foreach ($table->columns() as $column) {
            $known[$column->position()] = $column;
        }
        foreach ($imported->columns as $position => $encoded) {
            $column = $known[$position] ?? new TableColumn($table, $position, $imported->names[$position]);
            $column->describe($encoded->kind, $encoded->levels, $encoded->profile, $encoded->misfits, $encoded->misfitCount);
            $column->changeUse(Kind::Identifier === $encoded->kind ? ColumnUse::Key : ColumnUse::Input);
            if (!isset($known[$position])) {
                $table->addColumn($column);
            }
        }
        if (0 === $share) {
            hash_update($hash, json_encode($table->dialect()->toArray(), \JSON_THROW_ON_ERROR));
            $table->describe($imported->rows, hash_final($hash), $imported->repairs);
        }
        $this->entities->flush();
    }

    private function join(DataTable $table, Job $job): void
    {
        $this->editions->carryOver($table);
        $table->becomeReady();
        if (null === $table->study()->table()) {
            $table->study()->useTable($table);
        }
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
            $this->entities->flush();
        }
    }
}
