<?php

declare(strict_types=1);

namespace App\Recheck;

use App\Account\User;
use App\Approval\Approval;
use App\Decision\Rechecking;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Logbook\Logbook;
use App\Study\Study;
use App\Table\DataTable;
use App\Trial\Newer;
use App\Trial\Trial;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Recheck\Remedies;
use Dokimos\Core\Recheck\Verdict;
use Dokimos\Core\Table\Kind;

/** Begins rechecks, and what follows from them. */
final readonly class Rechecks implements Rechecking
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private Trials $trials,
        private Logbook $logbook,
    ) {
    }

    /** @return list<Rechecked> the newest first */
    public function of(Study $study): array
    {
        return $this->entities->getRepository(Rechecked::class)->findBy(['study' => $study], ['number' => 'DESC']);
    }

    public function start(Trial $trial, User $user, RecheckRequest $request): Job
    {
        $study = $trial->study();
        $table = $this->entities->find(DataTable::class, $request->tableId);
        if (null === $table || $table->study() !== $study || !$table->isReady()) {
            throw Problem::notFound('table');
        }
        if ($table === $trial->question()->table()) {
            throw new Problem(409, 'The trial was made of these records; recheck it on newer ones.');
        }
        if (!$trial->isDone()) {
            throw new Problem(409, \sprintf('Trial %d is not done.', $trial->number()));
        }
        $by = $request->by ?? $this->day($table);
        if (null !== $by && null === $table->column($by)) {
            throw Problem::invalid(\sprintf('There is no column %s.', $by), 'by');
        }
        foreach ($request->groups as $name) {
            $table->column($name) ?? throw Problem::invalid(\sprintf('There is no column %s.', $name), 'groups');
        }
        $recheck = new Rechecked($study, $trial, $table, ($this->of($study)[0] ?? null)?->number() + 1, [
            'by' => $by, 'matters' => $request->matters, 'cutoff' => $request->cutoff, 'groups' => $request->groups,
        ], $user->name());
        $this->entities->persist($recheck);
        $this->entities->flush();
        $title = \sprintf('Rechecking trial %d on %s', $trial->number(), $table->name());
        $job = $this->jobs->start($study, $user, RecheckRunner::KIND, $recheck->id(), $title, Jobs::LONG, ['recheck' => []]);
        $this->entities->flush();

        return $job;
    }

    public function begin(Trial $trial, User $user, DataTable $table, float $cutoff): void
    {
        $this->start($trial, $user, new RecheckRequest($table->id(), cutoff: $cutoff));
    }

    private function day(DataTable $table): ?string
    {
        foreach ($table->columns() as $column) {
            if (Kind::Date === $column->kind()) {
                return $column->name();
            }
        }

        return null;
    }

    /**
     * A later day to look at its model again, on the ground of what the recheck found.
     *
     * @throws Problem where the model is not in use, or the recheck gives no ground to wait
     */
    public function lookLater(Rechecked $recheck, User $user, string $day): Approval
    {
        $approval = $this->entities->getRepository(Approval::class)->findOneBy(['trial' => $recheck->trial(), 'withdrawnAt' => null])
            ?? throw new Problem(
                409,
                \sprintf('Trial %d is not approved for use, so there is no day to look again.', $recheck->trial()->number()),
            );
        if (\in_array($recheck->verdict(), ['', Verdict::NoLonger->value], true)) {
            throw new Problem(
                409,
                '' === $recheck->verdict() ? 'The recheck is not done.' : 'It holds no longer: that is no ground to wait.',
            );
        }
        $again = new \DateTimeImmutable($day);
        if ($again <= $approval->again() || $again <= new \DateTimeImmutable('today')) {
            throw new Problem(422, \sprintf('A later day lies after %s, and in the future.', $approval->again()->format('j M Y')), 'again');
        }
        $approval->lookLater($again, $user->name(), $recheck->verdict());
        $this->logbook->write($recheck->study(), $user, 'decisions', \sprintf(
            'Approval %d is to be looked at again on %s: recheck %d on %s says "%s".',
            $approval->number(),
            $again->format('j M Y'),
            $recheck->number(),
            $recheck->table()->name(),
            $recheck->verdict(),
        ));
        $this->entities->flush();

        return $approval;
    }

    /**
     * The same fitted on old records and the earlier part of the newer ones, or calibrated on that part, as a trial of its own; the newest
     * are left to compare on.
     *
     * @param string $use one of Newer::USES
     */
    public function anew(Rechecked $recheck, User $user, string $use): Job
    {
        $remedy = Newer::CALIBRATE === $use ? Remedies::CALIBRATE : Remedies::ANEW;
        if (!\in_array(
            $remedy,
            array_column(\is_array($recheck->told()['remedies'] ?? null) ? $recheck->told()['remedies'] : [], 'key'),
            true,
        )) {
            throw new Problem(409, 'There are too few newer records with known outcomes to learn from and to measure on.');
        }

        return $this->trials->anew(
            $recheck->trial(),
            $user,
            $recheck->table(),
            $recheck->asked()['by'],
            Remedies::cut($recheck->table()->rows()),
            $use,
        );
    }
}
