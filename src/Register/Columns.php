<?php

declare(strict_types=1);

namespace App\Register;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Question\Questions;
use App\Question\Veils;
use App\Storage\CellStore;
use App\Storage\ChunkSink;
use App\Table\DataTable;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\EncodedColumn;
use Dokimos\Core\Format\NoFrames;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/** Settles kinds and uses. A kind belongs to the table: changing it reads the column again from the kept source. */
final readonly class Columns
{
    public function __construct(
        private EntityManagerInterface $entities,
        private CellStore $store,
        private Logbook $logbook,
        private Veils $veils,
        private Questions $questions,
    ) {
    }

    public function change(TableColumn $column, User $user, ?Kind $kind, ?ColumnUse $use, ?bool $known): void
    {
        $refused = $this->refusal($column, $kind, $use);
        if (null !== $refused) {
            throw $refused;
        }
        if (null !== $kind && $kind !== $column->kind()) {
            $before = $column->kind();
            $this->readAgain($column->table(), [$column], $kind);
            $this->log(
                $column->table(),
                $user,
                $column->name(),
                \sprintf(
                    'kind from %s to %s%s',
                    $before->value,
                    $kind->value,
                    $column->misfitCount() > 0 ? \sprintf(
                        ' (%s cells do not fit and count as missing)',
                        number_format($column->misfitCount()),
                    ) : '',
                ),
                ...$this->put($column, $use, $known),
            );
        } elseif ([] !== $said = $this->put($column, $use, $known)) {
            $this->log($column->table(), $user, $column->name(), ...$said);
        }
        $this->veils->over($column->table());
        $this->entities->flush();
    }

    /** Reads every column again from the source as it is now, each as the kind that it has. */
    public function reread(DataTable $table): void
    {
        $byKind = [];
        foreach ($table->columns() as $column) {
            $byKind[$column->kind()->value][] = $column;
        }
        foreach ($byKind as $kind => $columns) {
            $this->readAgain($table, $columns, Kind::from($kind));
        }
        $this->veils->over($table);
    }

    /**
     * The same change of many columns, after looking at what it does; columns that may not be changed stay and say why.
     *
     * @param list<TableColumn> $columns of one table
     */
    public function changeMany(DataTable $table, array $columns, User $user, ColumnsRequest $request): ColumnsView
    {
        $refused = $again = $out = [];
        foreach ($columns as $column) {
            $refused[$column->id()] = $this->refusal($column, $request->kind, $request->use)?->getMessage();
            if (ColumnUse::Weight === $request->use && \in_array(null, \array_slice($refused, 0, -1), true)) {
                $refused[$column->id()] ??= 'Records can count by one column only.';
            }
            if (null === $refused[$column->id()] && null !== $request->kind && $request->kind !== $column->kind()) {
                $again[] = $column;
            }
        }
        $looked = [] === $again || null === $request->kind ? [] : $this->readAgain($table, $again, $request->kind, $request->preview);
        foreach ($columns as $column) {
            [$misfits, $texts] = $this->visible($column, $looked[$column->position()] ?? null);
            $out[] = new ColumnEffect($column->id(), $column->name(), $table->rows(), $misfits, $texts, $refused[$column->id()]);
            if (!$request->preview && null === $refused[$column->id()]) {
                $this->put($column, $request->use, $request->known);
            }
        }
        if (!$request->preview) {
            $changed = array_values(array_filter($columns, static fn (TableColumn $c) => null === $refused[$c->id()]));
            $misfits = array_sum(array_map(static fn (ColumnEffect $e) => $e->misfits, $out));
            if ([] !== $changed) {
                $this->log($table, $user, Words::listed(array_map(static fn (TableColumn $c) => $c->name(), $changed), 8), ...array_filter([
                    null === $request->kind ? null : \sprintf(
                        'kind to %s%s',
                        $request->kind->value,
                        $misfits > 0 ? \sprintf(' (%s cells do not fit and count as missing)', number_format($misfits)) : '',
                    ),
                    null === $request->use ? null : 'use to '.$request->use->value,
                    null === $request->known ? null : ($request->known ? 'known when the decision is made' : 'known only afterwards'),
                ]));
            }
            $this->veils->over($table);
            $this->entities->flush();
        }

        return new ColumnsView(
            !$request->preview,
            array_map(
                static fn (ColumnEffect $e) => new ColumnEffect(
                    $e->id,
                    $e->name,
                    $e->cells,
                    $e->misfits,
                    \array_slice($e->examples, 0, 5),
                    $e->refused,
                ),
                $out,
            ),
        );
    }

    /**
     * Cells that do not fit, without those of sealed rows where they are hidden.
     *
     * @return array{int, list<string>} how many, and some of them
     */
    private function visible(TableColumn $column, ?EncodedColumn $found): array
    {
        $hidden = array_fill_keys($this->questions->seal($column->study())->hidden($column), true);
        $misfits = array_values(array_filter($found->misfits ?? [], static fn (array $m) => !isset($hidden[$m[0]])));

        return [
            [] === $hidden ? $found->misfitCount ?? 0 : \count($misfits),
            array_values(array_unique(array_column(\array_slice($misfits, 0, 200), 1))),
        ];
    }

    private function refusal(TableColumn $column, ?Kind $kind, ?ColumnUse $use): ?Problem
    {
        $study = $column->study();
        $isTarget = $this->questions->of($study)->table() === $column->table() && $this->questions->of($study)->target() === $column->name();
        if ($isTarget && (null !== $use && ColumnUse::Target !== $use || null !== $kind && $kind !== $column->kind())) {
            return new Problem(409, \sprintf('%s is the target. Choose another target first.', $column->name()), 'use');
        }

        if (ColumnUse::Weight === $use && ColumnUse::Weight !== $column->use()) {
            if (Kind::Number !== ($kind ?? $column->kind())) {
                return Problem::invalid(
                    \sprintf(
                        '%s holds %s; a weight is a number: how many records this one stands for.',
                        $column->name(),
                        $column->kind()->value,
                    ),
                    'use',
                );
            }
            foreach ($column->table()->columns() as $other) {
                if (ColumnUse::Weight === $other->use()) {
                    return new Problem(
                        409,
                        \sprintf(
                            '%s is the weight already, and records can count by one column only. Give it another use first.',
                            $other->name(),
                        ),
                        'use',
                    );
                }
            }
        }
        if (ColumnUse::Weight === $column->use() && null === $use && null !== $kind && Kind::Number !== $kind) {
            return new Problem(
                409,
                \sprintf('%s is the weight and has to be a number. Give it another use first.', $column->name()),
                'kind',
            );
        }

        return ColumnUse::Target === $use && !$isTarget ? Problem::invalid(
            'A target is chosen with the class that counts as the event: use "Choose target".',
            'use',
        ) : null;
    }

    /** @return list<string> what changed, in words */
    private function put(TableColumn $column, ?ColumnUse $use, ?bool $known): array
    {
        $said = [];
        if (null !== $use && $use !== $column->use()) {
            $said[] = \sprintf('use from %s to %s', $column->use()->value, $use->value);
            $column->changeUse($use);
        }
        if (null !== $known && $known !== $column->isKnown()) {
            $said[] = $known ? 'known when the decision is made' : 'known only afterwards';
            $column->setKnown($known);
        }

        return $said;
    }

    private function log(DataTable $table, User $user, string $names, string ...$said): void
    {
        $this->logbook->write($table->study(), $user, 'table', \sprintf('%s of %s: %s.', $names, $table->name(), implode(', ', $said)));
    }

    /**
     * @param list<TableColumn> $columns
     *
     * @return array<int, EncodedColumn> by position
     */
    private function readAgain(DataTable $table, array $columns, Kind $kind, bool $preview = false): array
    {
        $names = array_map(static fn (TableColumn $c) => $c->name(), $columns);
        $sink = $preview ? new NoFrames() : new ChunkSink($this->store, $table->id(), true);
        $imported = (new TableImporter($table->dialect(), $sink))->import(
            fn () => $this->store->source($table->id()),
            array_fill_keys($names, $kind),
            $names,
        );
        if ($sink instanceof ChunkSink) {
            $sink->flush();
            foreach ($columns as $column) {
                $this->store->forgetOrder($table->id(), $column->position());
                $encoded = $imported->columns[$column->position()];
                $column->describe($encoded->kind, $encoded->levels, $encoded->profile, $encoded->misfits, $encoded->misfitCount);
            }
        }

        return $imported->columns;
    }
}
