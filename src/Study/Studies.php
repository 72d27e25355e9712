<?php

declare(strict_types=1);

namespace App\Study;

use App\Account\User;
use App\Decision\Scoring;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Logbook\LogEntry;
use App\Table\DataTable;
use App\Table\TableReader;
use App\Trial\Trial;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Validate\SplitPlan;

/** Makes studies, settles what they ask, and tells where they stand. */
final readonly class Studies
{
    public function __construct(private EntityManagerInterface $entities, private TableReader $reader, private Logbook $logbook)
    {
    }

    public function create(User $user, string $name, string $question): Study
    {
        $study = new Study(trim($name), '' === trim($question) ? trim($name).'?' : trim($question));
        $this->entities->persist($study);
        $this->entities->persist(new StudyMember($study, $user, Role::Owner));
        $this->logbook->write($study, $user, 'study', \sprintf('Study begun: %s', $study->question()));
        $this->entities->flush();

        return $study;
    }

    /** Draws the sealed rows on the source table, before any step: the same rows for every variant. */
    public function chooseTarget(Study $study, User $user, TargetRequest $request): void
    {
        $table = null === $request->tableId ? $study->table() : $this->entities->find(DataTable::class, $request->tableId);
        if (null === $table || $table->study() !== $study || !$table->isReady()) {
            throw Problem::notFound('table');
        }
        $column = $table->column($request->column) ?? throw Problem::invalid(\sprintf('There is no column %s in %s.', $request->column, $table->name()), 'column');
        if (!$column->kind()->isCoded() && Kind::Number !== $column->kind()) {
            throw Problem::invalid(\sprintf('%s holds %s. A target with two classes is a yes/no, a category, or a number with one value that counts as the event.', $column->name(), $column->kind()->value), 'column');
        }
        $event = $this->reader->event($column, $request->event);
        $known = array_filter($event, static fn (float $e) => !is_nan($e));
        $hits = (int) array_sum($known);
        if ($hits < 10 || \count($known) - $hits < 10) {
            throw Problem::invalid(\sprintf('%s of %s records with a known %s are "%s". At least ten of either kind are needed.', number_format($hits), number_format(\count($known)), $column->name(), $request->event), 'event');
        }
        $standard = SplitPlan::standard($table->rows());
        try {
            $plan = new SplitPlan($request->sealedShare ?? $standard->sealedShare, $request->folds ?? $standard->folds, $request->repeats ?? $standard->repeats, $request->seed ?? $standard->seed);
        } catch (\InvalidArgumentException $e) {
            throw Problem::invalid($e->getMessage());
        }
        $study->useTable($table);
        foreach ($table->columns() as $other) {
            if (ColumnUse::Target === $other->use()) {
                $other->changeUse(ColumnUse::Input);
            }
        }
        $column->changeUse(ColumnUse::Target);
        $sealed = $plan->sealed($event);
        $study->chooseTarget($column->name(), $request->event, $plan, $sealed);
        $this->logbook->write($study, $user, 'trials', \sprintf('Target: %s, event "%s" (%s of %s, %.1f %%). %s rows sealed, %s; seed %d.', $column->name(), $request->event, number_format($hits), number_format(\count($known)), 100 * $hits / \count($known), number_format(\count($sealed)), 1 === $plan->folds ? 'one validation part' : \sprintf('%d folds × %d', $plan->folds, $plan->repeats), $plan->seed));
        $this->entities->flush();
    }

    public function view(Study $study, Role $role): StudyView
    {
        $table = $study->table();
        $tables = $this->entities->getRepository(DataTable::class)->findBy(['study' => $study, 'state' => [DataTable::READY, DataTable::IMPORTING]], ['id' => 'ASC']);
        $trials = array_map(TrialView::of(...), $this->entities->getRepository(Trial::class)->findBy(['study' => $study], ['number' => 'ASC']));
        $scorings = $this->entities->getRepository(Scoring::class)->findBy(['study' => $study], ['id' => 'DESC'], 5);
        $log = $this->entities->getRepository(LogEntry::class);
        $last = $log->findOneBy(['study' => $study], ['id' => 'DESC']);
        $done = array_filter($trials, static fn (TrialView $t) => Trial::DONE === $t->state);
        $openings = \count(array_filter($trials, static fn (TrialView $t) => $t->sealOpened));
        $scored = \count(array_filter($scorings, static fn (Scoring $s) => 'done' === $s->state()));
        $station = match (true) {
            $scored > 0 => 6,
            [] !== $done => 4,
            [] !== $trials => 3,
            null !== $study->target() => 2,
            default => 1,
        };
        $sealed = \count($study->sealedRows());
        $rows = $table?->rows() ?? 0;

        return new StudyView(
            $study->id(),
            $study->version(),
            $study->name(),
            $study->question(),
            $role->value,
            $table?->id(),
            $table?->name(),
            $rows,
            null === $table ? 0 : \count($table->columns()),
            $study->target(),
            $study->event(),
            $study->plan(),
            $sealed,
            $rows - $sealed,
            $openings,
            $station,
            self::waits($study, $table, $trials, $scored),
            array_values(array_map(static fn (DataTable $t) => new StudyTableView($t->id(), $t->name(), $t->state(), $t->rows(), \count($t->columns()), $t->edition()), $tables)),
            array_map(static fn (TrialView $t) => new StudyTrialView($t->id, $t->number, $t->title, $t->state, $t->auc, [] !== $t->stale), $trials),
            array_values(array_map(static fn (Scoring $s) => new StudyScoringView($s->id(), $s->table()->name(), $s->table()->rows(), $s->called(), $s->state()), $scorings)),
            $log->count(['study' => $study]),
            $last?->sentence(),
            ($last?->at() ?? $study->createdAt())->format(\DATE_ATOM),
        );
    }

    /**
     * @param list<TrialView> $trials
     *
     * @return list<string>
     */
    private static function waits(Study $study, ?DataTable $table, array $trials, int $scored): array
    {
        if (null === $table) {
            return ['a table to import'];
        }
        if (null === $study->target()) {
            return ['the target to choose'];
        }
        if ([] === $trials) {
            return ['a first trial'];
        }
        $stale = \count(array_filter($trials, static fn (TrialView $t) => [] !== $t->stale));
        $waits = $stale > 0 ? [\sprintf('%d stale %s', $stale, 1 === $stale ? 'trial' : 'trials')] : [];
        if (0 === $scored) {
            $waits[] = 'new records to score';
        }

        return $waits;
    }
}
