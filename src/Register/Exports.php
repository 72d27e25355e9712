<?php

declare(strict_types=1);

namespace App\Register;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Storage\CellStore;
use App\Table\DataTable;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Format\RecordLine;
use Dokimos\Core\Format\WorkbookWriter;
use Dokimos\Core\Table\FrameCodec;

/** Writes tables as open formats, a frame of rows at a time. */
final readonly class Exports
{
    public const FORMATS = ['csv', 'jsonl', 'xlsx'];

    public function __construct(
        private OpenCells $reader,
        private CellStore $store,
        private Logbook $logbook,
        private EntityManagerInterface $entities,
        private Questions $questions,
    ) {
    }

    /**
     * The source as it was imported, with every outcome in it; that somebody took it is written down.
     *
     * @return iterable<string>
     */
    public function source(DataTable $table, User $user): iterable
    {
        $sealed = \count($this->questions->seal($table->study())->rowsIn($table));
        $this->logbook->write(
            $table->study(),
            $user,
            'table',
            \sprintf(
                'Took the source of %s as it was imported%s.',
                $table->name(),
                0 === $sealed ? '' : \sprintf(', with the outcomes of its %s sealed rows', number_format($sealed)),
            ),
        );
        $this->entities->flush();

        return $this->store->source($table->id());
    }

    /** @return string the bytes of an XLSX workbook */
    public function workbook(DataTable $table, ?Selection $found = null): string
    {
        $cells = ($found->count ?? $table->rows()) * \count($table->columns());
        if ($cells > WorkbookWriter::MOST_CELLS) {
            throw Problem::invalid(
                \sprintf(
                    'The table has %s cells; a workbook is written up to %s. Narrow the rows, or take CSV.',
                    number_format($cells),
                    number_format(WorkbookWriter::MOST_CELLS),
                ),
                'format',
            );
        }
        $path = (string) tempnam(sys_get_temp_dir(), 'book');
        try {
            WorkbookWriter::write(
                array_map(static fn (TableColumn $c) => $c->name(), $table->columns()),
                array_map(static fn (TableColumn $c) => $c->kind(), $table->columns()),
                $this->records($table, $found),
                $path,
            );

            return (string) file_get_contents($path);
        } finally {
            unlink($path);
        }
    }

    /** @return \Generator<int, list<?string>> */
    private function records(DataTable $table, ?Selection $found): \Generator
    {
        $count = $found->count ?? $table->rows();
        for ($from = 0; $from < $count; $from += FrameCodec::ROWS) {
            $rows = $found?->page($from, FrameCodec::ROWS) ?? range($from, min($count, $from + FrameCodec::ROWS) - 1);
            foreach ($this->reader->rows($table, $rows) as $cells) {
                yield $cells;
            }
        }
    }

    /**
     * In CSV, text that a spreadsheet would run is guarded; in JSON Lines numbers are numbers, yes/no are true and false, and missing is null.
     *
     * @return \Generator<int, string>
     */
    public function lines(DataTable $table, string $format, ?Selection $found = null): \Generator
    {
        $names = array_map(static fn (TableColumn $c) => $c->name(), $table->columns());
        $kinds = array_map(static fn (TableColumn $c) => $c->kind(), $table->columns());
        if ('csv' === $format) {
            yield CsvWriter::line($names);
        }
        foreach ($this->records($table, $found) as $cells) {
            yield 'csv' === $format ? CsvWriter::line($cells) : RecordLine::of($names, $kinds, $cells);
        }
    }
}
