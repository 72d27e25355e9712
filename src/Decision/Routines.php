<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Approval\Approvals;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Score\KeepRequest;
use App\Score\KeptScored;
use App\Score\KeptScoredRunner;
use App\Score\Scoring;
use App\Score\ScoringRunner;
use App\Score\Scorings;
use App\Study\Role;
use App\Study\Study;
use App\Study\StudyMember;
use App\Table\DataTable;
use App\Table\Editions;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Progress;
use Dokimos\Core\Stretch;
use Dokimos\Core\Table\Kind;

/** Keeps routines, starts them, and does what they say. */
final readonly class Routines
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private Judgments $judgments,
        private Scorings $scorings,
        private ScoringRunner $scoring,
        private KeptScored $kept,
        private KeptScoredRunner $tables,
        private Decisions $decisions,
        private Weighing $weighing,
        private ListExports $exports,
        private Editions $editions,
        private Logbook $logbook,
        private Shifts $shifts,
        private Approvals $approvals,
        private Rechecking $rechecking,
    ) {
    }

    /** @return list<RoutineView> */
    public function of(Study $study): array
    {
        return array_map(
            $this->view(...),
            $this->entities->getRepository(Routine::class)->findBy(['study' => $study], ['id' => 'ASC']),
        );
    }

    public function view(Routine $routine): RoutineView
    {
        return RoutineView::of($routine, $this->jobs->underWay(RoutineRunner::KIND, $routine->id()));
    }

    public function make(Study $study, User $user, Trial $trial, RoutineRequest $request): Routine
    {
        if ($trial->study() !== $study) {
            throw Problem::notFound('trial');
        }
        $plan = $request->plan;
        if (null !== $plan->export && null === $plan->terms) {
            throw Problem::invalid('What is exported is a list: give its terms.', 'plan.export');
        }
        if (null !== $plan->export && null === $plan->export->connectionId) {
            throw Problem::invalid('A routine exports to a database on a server.', 'plan.export');
        }
        $this->matched($trial, $this->newest($study, $plan->table), $plan->matching);
        $routine = new Routine($study, $user, $trial, trim($request->name), $plan);
        $this->entities->persist($routine);
        $this->logbook->write($study, $user, 'decisions', \sprintf(
            'Keeps the routine "%s": %s scored with trial %d, %s.',
            $routine->name(),
            $plan->table,
            $trial->number(),
            $plan->when,
        ));
        $this->entities->flush();

        return $routine;
    }

    public function remove(Routine $routine, User $user): void
    {
        $this->logbook->write($routine->study(), $user, 'decisions', \sprintf('Removed the routine "%s".', $routine->name()));
        $this->entities->remove($routine);
        $this->entities->flush();
    }

    /** Has a worker do it, as its owner; what is under way is told instead. */
    public function start(Routine $routine): Job
    {
        $routine->moveOn(new \DateTimeImmutable());

        return $this->jobs->once(
            $routine->study(),
            $routine->user(),
            RoutineRunner::KIND,
            $routine->id(),
            \sprintf('Routine %s', mb_substr($routine->name(), 0, 150)),
            Jobs::LONG,
            ['all' => []],
        );
    }

    /** @return int how many were due, and begun */
    public function startDue(\DateTimeImmutable $now): int
    {
        /** @var list<Routine> $due */
        $due = $this->entities->createQuery(
            'SELECT r FROM App\Decision\Routine r JOIN r.study s WHERE r.nextAt <= :now AND s.deletedAt IS NULL',
        )->setParameter('now', $now)->getResult();
        foreach ($due as $routine) {
            $this->start($routine);
        }

        return \count($due);
    }

    private function newest(Study $study, string $name): DataTable
    {
        return $this->entities->getRepository(DataTable::class)->findOneBy(
            ['study' => $study, 'name' => $name, 'state' => DataTable::READY],
            ['edition' => 'DESC'],
        ) ?? throw Problem::invalid(\sprintf('There is no table %s in this study.', $name), 'plan.table');
    }

    /**
     * @param array<string, string> $hand
     *
     * @throws Problem where the model asks for a column that the table has no more
     */
    private function matched(Trial $trial, DataTable $table, array $hand): void
    {
        /** @var array<string, Kind> $kinds */
        $kinds = [];
        foreach ($table->columns() as $column) {
            $kinds[$column->name()] = $column->kind();
        }
        $lines = ColumnMatch::of($this->judgments->inUse($trial)->asked, $kinds, $hand);
        $lacking = array_map(
            static fn (array $l): string => $l['asked'],
            array_filter($lines, static fn (array $l): bool => null === $l['found']),
        );
        if ([] !== $lacking) {
            throw new Problem(
                409,
                \sprintf('%s has no %s, which trial %d asks for.', $table->name(), implode(', ', $lacking), $trial->number()),
            );
        }
    }

    /** Does it once: scores the newest edition, and writes what is wanted of it. */
    public function run(Routine $routine, Progress $progress): void
    {
        $plan = $routine->plan();
        $study = $routine->study();
        $member = $this->entities->getRepository(StudyMember::class)->findOneBy(['study' => $study, 'user' => $routine->user()]);
        if (null === $member || !$member->role()->covers(Role::Editor)) {
            throw new Problem(
                409,
                \sprintf('%s may no longer change this study; the routine runs as its owner.', $routine->user()->name()),
            );
        }
        if ($this->approvals->isWithdrawn($routine->trial())) {
            throw new Problem(409, \sprintf(
                'The approval of trial %d was withdrawn; the routine waits until it, or another trial, is approved.',
                $routine->trial()->number(),
            ));
        }
        $table = $this->newest($study, $plan->table);
        $this->matched($routine->trial(), $table, $plan->matching);
        $scoring = $this->scorings->begin($study, $routine->trial(), $table, $plan->matching, $plan->cutoff, $plan->answers);
        $this->scoring->whole($scoring, $routine->user(), new Stretch($progress, 0.0, 0.6));
        $says = [\sprintf('%s of %s records scored', number_format($scoring->scored()), number_format($table->rows()))];
        $made = $decision = null;
        if ('' !== $plan->keepAs) {
            $made = $this->kept->begin($scoring, new KeepRequest($plan->keepAs, $plan->answer));
            $this->tables->fill($made, $scoring, $plan->answer, null, $routine->user(), new Stretch($progress, 0.6, 0.85));
            $says[] = \sprintf('kept as %s, edition %d', $made->name(), $made->edition());
        }
        if (null !== $plan->terms) {
            $decision = $this->decisions->make($scoring, $routine->user(), new DecisionRequest($routine->name(), $plan->terms));
            $acted = $this->weighing->of($decision)->acted;
            $says[] = \sprintf(
                '%s to act on, expected to bring %s%s',
                number_format($acted->actions),
                $plan->terms->unit,
                number_format($acted->return),
            );
        }
        $progress->report(0.9, 'written');
        if (null !== $decision && null !== $plan->export) {
            $done = $this->exports->write($decision, $routine->user(), $plan->export);
            $says[] = \sprintf('%s written to %s', number_format((int) $done->written), $done->table);
        }
        if ($plan->recheck) {
            $this->rechecking->begin($routine->trial(), $routine->user(), $table, $plan->cutoff);
            $says[] = 'the model is rechecked on them';
        }
        $this->keep($routine, $scoring, $decision, $made, ucfirst(implode('; ', $says)).'.');
    }

    private function keep(Routine $routine, Scoring $scoring, ?Decision $decision, ?DataTable $made, string $says): void
    {
        $warnings = array_map(
            static fn ($d): string => $d->says,
            $this->editions->differences($scoring->table())->differences ?? [],
        );
        $answers = $this->shifts->of($scoring);
        $last = $routine->last();
        if (null !== $last && null !== $last['mean'] && null !== $warning = $this->shifts->warning($answers, $last)) {
            $warnings[] = $warning;
        }
        $routine->keep([
            'at' => (new \DateTimeImmutable())->format(\DATE_ATOM),
            'failed' => false,
            'says' => $says,
            'warnings' => $warnings,
            'scoring' => $scoring->id(),
            'decision' => $decision?->id(),
            'tableId' => $made?->id(),
        ] + $answers);
        $this->logbook->write($routine->study(), $routine->user(), 'decisions', \sprintf(
            'Routine "%s": %s%s',
            $routine->name(),
            $says,
            [] === $warnings ? '' : ' The new records differ: '.implode(' ', \array_slice($warnings, 0, 3)),
        ));
        $this->entities->flush();
    }

    /** A run that came to nothing: said where its owner looks. */
    public function failed(Routine $routine, string $sentence): void
    {
        $last = $routine->last();
        $routine->keep([
            'at' => (new \DateTimeImmutable())->format(\DATE_ATOM),
            'failed' => true,
            'says' => $sentence,
            'warnings' => [],
            'scoring' => $last['scoring'] ?? null,
            'decision' => $last['decision'] ?? null,
            'tableId' => $last['tableId'] ?? null,
            'mean' => $last['mean'] ?? null,
            'spread' => $last['spread'] ?? null,
            'scored' => $last['scored'] ?? 0,
        ]);
        $this->logbook->write($routine->study(), $routine->user(), 'decisions', \sprintf(
            'Routine "%s" could not be done: %s',
            $routine->name(),
            $sentence,
        ));
        $this->entities->flush();
    }
}
