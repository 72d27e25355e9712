<?php

declare(strict_types=1);

namespace App\Score;

use App\Account\User;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Logbook\Logbook;
use App\Storage\CellStore;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\TableReady;
use App\Table\WrittenTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\EncodedColumn;
use Dokimos\Core\Progress;
use Dokimos\Core\Table\ColumnUse;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Writes scored records as a table of the study. */
final readonly class KeptScoredRunner implements PieceRunner
{
    public const KIND = 'scored-table';

    public function __construct(
        private EntityManagerInterface $entities,
        private CellStore $store,
        private KeptScored $kept,
        private WrittenTable $written,
        private Logbook $logbook,
        private EventDispatcherInterface $events,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $table = $this->entities->find(DataTable::class, $job->subject());
        $asked = $piece->payload() + ['scoring' => 0, 'as' => '', 'carry' => null];
        $scoring = $this->entities->find(Scoring::class, is_numeric($asked['scoring']) ? (int) $asked['scoring'] : 0);
        if (null === $table || null === $scoring || $table->isReady()) {
            return;
        }
        $as = \is_string($asked['as']) ? $asked['as'] : '';
        $carry = \is_array($asked['carry']) ? array_values(array_filter($asked['carry'], is_string(...))) : null;
        $this->fill($table, $scoring, $as, $carry, $job->user(), $progress);
    }

    /** @param ?list<string> $carry */
    public function fill(DataTable $table, Scoring $scoring, string $as, ?array $carry, User $user, Progress $progress): void
    {
        $this->written->fill(
            $table,
            $this->kept->lines($scoring, $as, $carry),
            $this->kept->kinds($scoring, $as, $carry),
            static function (int $position, string $name, EncodedColumn $encoded) use ($table, $scoring): void {
                $column = new TableColumn($table, $position, $name);
                $column->describe($encoded->kind, $encoded->levels, $encoded->profile, $encoded->misfits, $encoded->misfitCount);
                // What the model says of a record is no input of another one, unless somebody makes it one.
                $column->changeUse($scoring->table()->column($name)?->use() ?? ColumnUse::Aside);
                $table->addColumn($column);
            },
            $progress,
        );
        $table->becomeReady();
        $this->events->dispatch(new TableReady($table));
        $this->logbook->write($table->study(), $user, 'decisions', \sprintf(
            'Made %s of the records of %s scored with trial %d: %s records, %d columns.',
            $table->name(),
            $scoring->table()->name(),
            $scoring->trial()->number(),
            number_format($table->rows()),
            \count($table->columns()),
        ));
        $this->entities->flush();
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
