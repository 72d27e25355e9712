<?php

declare(strict_types=1);

namespace App\Combine;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Logbook\Logbook;
use App\Question\OpenCells;
use App\Storage\CellStore;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\WrittenTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Combine\CannotCombine;
use Dokimos\Core\Combine\Picking;
use Dokimos\Core\Combine\Reshaping;
use Dokimos\Core\Format\EncodedColumn;
use Dokimos\Core\Format\KindGuess;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Progress;
use Dokimos\Core\Stretch;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** Follows a combination: what it gives is kept as text, like any source, and read with the kinds it has. */
final readonly class CombineRunner implements PieceRunner
{
    public const KIND = 'combine';

    public function __construct(
        private EntityManagerInterface $entities,
        private CellStore $store,
        private OpenCells $reader,
        private Logbook $logbook,
        private WrittenTable $written,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $combination = $this->entities->find(KeptCombination::class, $job->subject());
        if (null === $combination || $combination->table()->isReady()) {
            return;
        }
        $table = $combination->table();
        [$lines, $kinds] = $this->made($combination, new Stretch($progress, 0.0, 0.3));
        $origins = $combination->combination()->origins(array_map(
            static fn (TableColumn $c) => $c->name(),
            $combination->source()->columns(),
        ));
        $this->written->fill(
            $table,
            $lines,
            $kinds,
            function (int $position, string $name, EncodedColumn $encoded) use ($table, $combination, $origins): void {
                $column = new TableColumn($table, $position, $name);
                $column->describe($encoded->kind, $encoded->levels, $encoded->profile, $encoded->misfits, $encoded->misfitCount);
                $this->settle($column, $combination, $origins[$name] ?? ['own' => [], 'other' => []]);
                $table->addColumn($column);
            },
            new Stretch($progress, 0.3, 1.0),
        );
        $table->becomeReady();
        $this->logbook->write(
            $table->study(),
            $job->user(),
            'table',
            \sprintf(
                'Made %s from %s%s, which %s: %s records, %d columns.',
                $table->name(),
                $combination->source()->name(),
                null === $combination->other() ? '' : ' and '.$combination->other()->name(),
                $combination->combination()->sentence(),
                number_format($table->rows()),
                \count($table->columns()),
            ),
        );
        $this->entities->flush();
    }

    /** @return array{iterable<list<?string>>, array<string, Kind>} the names and the records, and the kinds by name */
    private function made(KeptCombination $kept, Progress $progress): array
    {
        $combination = $kept->combination();
        if ($combination instanceof Picking) {
            $kinds = [];
            foreach ($kept->source()->columns() as $column) {
                $kinds[$column->name()] = $column->kind();
            }

            return [$this->picked($kept->source(), $combination, $progress), $kinds];
        }
        \assert($combination instanceof Reshaping);
        try {
            $made = $combination->apply(
                $this->reader->table($kept->source()),
                null === $kept->other() ? null : $this->reader->table($kept->other()),
            );
        } catch (CannotCombine $e) {
            throw new UnreadableTable($e->getMessage(), 0, $e);
        }
        $progress->report(1.0, 'put together');

        return [self::lines($made), array_map(static fn ($column): Kind => $column->kind(), $made->columns())];
    }

    /** @return \Generator<int, list<?string>> read frame by frame: neither the table nor what is taken of it is ever held */
    private function picked(DataTable $source, Picking $combination, Progress $progress): \Generator
    {
        yield array_map(static fn (TableColumn $c): string => $c->name(), $source->columns());
        $walk = $this->reader->walk($source);
        $cells = [];
        $frame = null;
        foreach ($combination->rows($source->rows()) as $row) {
            if ($frame !== $own = intdiv($row, FrameCodec::ROWS)) {
                $frame = $own;
                $cells = array_values($walk->at($frame)->columns());
                $progress->report($row / $source->rows(), 'drawn');
            }
            yield array_map(static fn (Column $c): ?string => $c->text($row - $frame * FrameCodec::ROWS), $cells);
        }
    }

    /**
     * What is made from an outcome, or from what is known only afterwards, is known only afterwards too and never an input by itself.
     *
     * @param array{own: list<string>, other: list<string>} $origins
     */
    private function settle(TableColumn $column, KeptCombination $combination, array $origins): void
    {
        $from = array_values(array_filter([
            ...array_map(static fn (string $name) => $combination->source()->column($name), $origins['own']),
            ...array_map(static fn (string $name) => $combination->other()?->column($name), $origins['other']),
        ]));
        $told = [] !== array_filter($from, static fn (TableColumn $c) => ColumnUse::Target === $c->use() || !$c->isKnown());
        $same = 1 === \count($from) && $from[0]->name() === $column->name() ? $from[0]->use() : ColumnUse::Input;
        $column->setKnown(!$told);
        $column->changeUse(match (true) {
            $told => ColumnUse::Aside,
            ColumnUse::Input !== KindGuess::use($column->kind()) => KindGuess::use($column->kind()),
            default => $same,
        });
    }

    /** @return \Generator<int, list<?string>> */
    private static function lines(Table $made): \Generator
    {
        yield $made->names();
        $columns = array_values($made->columns());
        for ($row = 0; $row < $made->rows; ++$row) {
            yield array_map(static fn ($c) => $c->text($row), $columns);
        }
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
