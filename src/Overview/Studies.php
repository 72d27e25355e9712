<?php

declare(strict_types=1);

namespace App\Overview;

use App\Account\User;
use App\Logbook\Logbook;
use App\Logbook\LogEntry;
use App\Question\Questions;
use App\Question\Seal;
use App\Score\Scoring;
use App\Study\Role;
use App\Study\Study;
use App\Study\StudyMember;
use App\Table\DataTable;
use App\Trial\Trial;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Task\Task;

/** Makes studies, settles what they ask, and tells where they stand. */
final readonly class Studies
{
    public function __construct(private EntityManagerInterface $entities, private Logbook $logbook, private Questions $questions)
    {
    }

    public function create(User $user, string $name, string $question): Study
    {
        $study = new Study(trim($name), '' === trim($question) ? trim($name).'?' : trim($question));
        $this->entities->persist($study);
        $this->entities->flush();
        $this->questions->begin($study);
        $this->entities->persist(new StudyMember($study, $user, Role::Owner));
        $this->logbook->write($study, $user, 'study', \sprintf('Study begun: %s', $study->question()));
        $this->entities->flush();

        return $study;
    }

    /** Grows with every change of the study, or of what it asks. */
    public function version(Study $study): int
    {
        return $study->version() + $this->questions->of($study)->version() - 1;
    }

    public function view(Study $study, Role $role): StudyView
    {
        $table = $this->questions->of($study)->table();
        $tables = $this->entities->getRepository(DataTable::class)->findBy(['study' => $study, 'state' => [DataTable::READY, DataTable::IMPORTING]], ['id' => 'ASC']);
        $columns = $this->columns($study);
        $trials = array_map(TrialView::of(...), $this->entities->getRepository(Trial::class)->findBy(['question' => $study->id()], ['number' => 'ASC']));
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
            null !== $this->questions->of($study)->target() => 2,
            default => 1,
        };
        $sealed = $this->questions->seal($study)->count();
        $rows = $table?->rows() ?? 0;

        return new StudyView(
            $study->id(),
            $this->version($study),
            $study->name(),
            $study->question(),
            $role->value,
            $table?->id(),
            $table?->name(),
            $rows,
            null === $table ? 0 : $columns[$table->id()] ?? 0,
            $this->questions->of($study)->target(),
            $this->questions->of($study)->event(),
            $this->questions->of($study)->task(),
            Task::MORE === $this->questions->of($study)->task() ? $this->questions->of($study)->classes() ?? [] : [],
            $this->questions->of($study)->plan(),
            $sealed,
            $rows - $sealed,
            $openings,
            $station,
            $this->waits($study, $table, $trials, $scored),
            array_values(array_map(static fn (DataTable $t) => new StudyTableView($t->id(), $t->name(), $t->state(), $t->rows(), $columns[$t->id()] ?? 0, $t->edition()), $tables)),
            array_map(static fn (TrialView $t) => new StudyTrialView($t->id, $t->number, $t->title, $t->state, $t->task, $t->measure, $t->value, [] !== $t->stale), $trials),
            array_values(array_map(static fn (Scoring $s) => new StudyScoringView($s->id(), $s->table()->name(), $s->table()->rows(), $s->called(), $s->state()), $scorings)),
            $log->count(['study' => $study]),
            $last?->sentence(),
            ($last?->at() ?? $study->createdAt())->format(\DATE_ATOM),
            $this->otherSeals($study),
            $study->keepDays(),
        );
    }

    /**
     * How many columns each table has, without reading what is known of them.
     *
     * @return array<int, int> by table
     */
    private function columns(Study $study): array
    {
        $counts = [];
        foreach ($this->entities->getConnection()->fetchAllKeyValue('SELECT t.id, COUNT(c.id) FROM data_table t JOIN table_column c ON c.table_id = t.id WHERE t.study_id = ? GROUP BY t.id', [$study->id()]) as $table => $count) {
            $counts[(int) $table] = is_numeric($count) ? (int) $count : 0;
        }

        return $counts;
    }

    /**
     * A second question asked of the same source is told what an earlier one keeps sealed there: who looks at those outcomes here opens that
     * seal without a record.
     *
     * @return list<string>
     */
    private function otherSeals(Study $study): array
    {
        $others = $this->entities->getConnection()->fetchFirstColumn(
            "SELECT o.id FROM study o JOIN question q ON q.study_id = o.id JOIN data_table m ON m.id = q.table_id
             WHERE o.id <> ? AND o.deleted_at IS NULL AND m.state = 'ready' AND m.fingerprint IN (SELECT t.fingerprint FROM data_table t WHERE t.study_id = ? AND t.state = 'ready') ORDER BY m.id",
            [$study->id(), $study->id()],
        );
        $says = [];
        foreach ($others as $id) {
            $other = $this->entities->find(Study::class, $id);
            $seal = null === $other ? null : $this->questions->seal($other);
            if (null !== $other && null !== $seal && $seal->isClosed()) {
                $says[] = \sprintf('Another study keeps %s of the same records sealed for %s. Who looks at their outcomes here has seen them there.', number_format($seal->count()), (string) $this->questions->of($other)->target());
            }
        }

        return $says;
    }

    /**
     * @param list<TrialView> $trials
     *
     * @return list<string>
     */
    private function waits(Study $study, ?DataTable $table, array $trials, int $scored): array
    {
        if (null === $table) {
            return ['a table to import'];
        }
        if (null === $this->questions->of($study)->target()) {
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
