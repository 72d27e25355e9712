<?php

declare(strict_types=1);

namespace App\Overview;

use App\Account\User;
use App\Logbook\Logbook;
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
        return $this->glance($study, $role, Gathered::of($this->entities, [$study]));
    }

    /**
     * @param list<StudyMember> $members
     *
     * @return list<StudyView>
     */
    public function views(array $members): array
    {
        $gathered = Gathered::of($this->entities, array_map(static fn (StudyMember $m): Study => $m->study(), $members));

        return array_map(fn (StudyMember $m): StudyView => $this->glance($m->study(), $m->role(), $gathered), $members);
    }

    private function glance(Study $study, Role $role, Gathered $gathered): StudyView
    {
        $id = $study->id();
        $table = $this->questions->of($study)->table();
        $columns = $gathered->columns;
        $trials = array_map(TrialView::of(...), $gathered->trials[$id] ?? []);
        $scorings = $gathered->scorings[$id] ?? [];
        $last = $gathered->last[$id] ?? null;
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
            $gathered->tables[$id] ?? [],
            array_map(static fn (TrialView $t) => new StudyTrialView($t->id, $t->number, $t->title, $t->state, $t->task, $t->measure, $t->value, [] !== $t->stale), $trials),
            array_map(
                static fn (Scoring $s) => new StudyScoringView(
                    $s->id(),
                    $s->table()->name(),
                    $s->table()->rows(),
                    $s->called(),
                    $s->state(),
                ),
                $scorings,
            ),
            $gathered->said[$id] ?? 0,
            $last?->sentence(),
            ($last?->at() ?? $study->createdAt())->format(\DATE_ATOM),
            $this->otherSeals($gathered->others[$id] ?? []),
            $study->keepDays(),
        );
    }

    /**
     * A second question asked of the same source is told what an earlier one keeps sealed there: who looks at those outcomes here opens that
     * seal without a record.
     *
     * @param list<Study> $others about the same records
     *
     * @return list<string>
     */
    private function otherSeals(array $others): array
    {
        $says = [];
        foreach ($others as $other) {
            $seal = $this->questions->seal($other);
            if ($seal->isClosed()) {
                $says[] = \sprintf(
                    'Another study keeps %s of the same records sealed for %s. Who looks at their outcomes here has seen them there.',
                    number_format($seal->count()),
                    (string) $this->questions->of($other)->target(),
                );
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
