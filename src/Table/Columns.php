<?php

declare(strict_types=1);

namespace App\Table;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Storage\CellStore;
use App\Storage\ChunkSink;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/** Settles kinds and uses. A kind belongs to the table: changing it reads the column again from the kept source. */
final readonly class Columns
{
    public function __construct(private EntityManagerInterface $entities, private CellStore $store, private Logbook $logbook)
    {
    }

    public function change(TableColumn $column, User $user, ?Kind $kind, ?ColumnUse $use, ?bool $known): void
    {
        $study = $column->study();
        $isTarget = $study->table() === $column->table() && $study->target() === $column->name();
        if ($isTarget && (null !== $use && ColumnUse::Target !== $use || null !== $kind && $kind !== $column->kind())) {
            throw new Problem(409, \sprintf('%s is the target. Choose another target first.', $column->name()), 'use');
        }
        if (ColumnUse::Target === $use && !$isTarget) {
            throw Problem::invalid('A target is chosen with the class that counts as the event: use "Choose target".', 'use');
        }
        $said = [];
        if (null !== $kind && $kind !== $column->kind()) {
            $before = $column->kind();
            $this->readAgain($column, $kind);
            $said[] = \sprintf('kind from %s to %s%s', $before->value, $kind->value, $column->misfitCount() > 0 ? \sprintf(' (%s cells do not fit and count as missing)', number_format($column->misfitCount())) : '');
        }
        if (null !== $use && $use !== $column->use()) {
            $said[] = \sprintf('use from %s to %s', $column->use()->value, $use->value);
            $column->changeUse($use);
        }
        if (null !== $known && $known !== $column->isKnown()) {
            $said[] = $known ? 'known when the decision is made' : 'known only afterwards';
            $column->setKnown($known);
        }
        if ([] !== $said) {
            $this->logbook->write($study, $user, 'table', \sprintf('%s of %s: %s.', $column->name(), $column->table()->name(), implode(', ', $said)));
            $this->entities->flush();
        }
    }

    private function readAgain(TableColumn $column, Kind $kind): void
    {
        $table = $column->table();
        $sink = new ChunkSink($this->store, $table->id(), true);
        $imported = (new TableImporter($table->dialect(), $sink))->import(fn () => $this->store->source($table->id()), [$column->name() => $kind], [$column->name()]);
        $sink->flush();
        $this->store->forgetOrder($table->id(), $column->position());
        $encoded = $imported->columns[$column->position()];
        $column->describe($encoded->kind, $encoded->levels, $encoded->profile, $encoded->misfits, $encoded->misfitCount);
    }
}
