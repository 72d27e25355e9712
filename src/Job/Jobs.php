<?php

declare(strict_types=1);

namespace App\Job;

use App\Account\User;
use App\Storage\Store;
use App\Study\Study;
use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Doctrine\DBAL\ParameterType;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;

/** Starts, lists and cancels long work. */
final readonly class Jobs
{
    public const QUICK = 'quick';
    public const LONG = 'long';

    /** @param iterable<PieceRunner> $runners */
    public function __construct(
        private EntityManagerInterface $entities,
        private Connection $connection,
        private PieceQueue $queue,
        private Store $store,
        #[AutowireIterator('dokimos.piece_runner')]
        private iterable $runners,
    ) {
    }

    /**
     * The caller flushes: the job is stored together with what it is about. A piece may name another lane under "lane".
     *
     * @param array<string, array<string, mixed>> $pieces payload by key
     */
    public function start(Study $study, User $user, string $kind, int $subject, string $title, string $lane, array $pieces): Job
    {
        $job = new Job($study, $user, $kind, $subject, $title, \count($pieces));
        $this->entities->persist($job);
        foreach ($pieces as $key => $payload) {
            $own = $payload['lane'] ?? null;
            $this->entities->persist(new Piece($job, $key, \is_string($own) ? $own : $lane, $payload));
        }

        return $job;
    }

    /**
     * What is under way for a thing, and asks for the same, is told instead of begun anew.
     *
     * @param array<string, array<string, mixed>> $pieces payload by key
     */
    public function once(Study $study, User $user, string $kind, int $subject, string $title, string $lane, array $pieces): Job
    {
        $job = $this->underWay($kind, $subject, $pieces) ?? $this->start($study, $user, $kind, $subject, $title, $lane, $pieces);
        $this->entities->flush();

        return $job;
    }

    /**
     * Long work of a kind on a thing that waits or runs.
     *
     * @param array<string, array<string, mixed>>|null $pieces that ask for this; null = for anything
     */
    public function underWay(string $kind, int $subject, ?array $pieces = null): ?Job
    {
        $jobs = $this->entities->getRepository(Job::class)->findBy([
            'kind' => $kind,
            'subject' => $subject,
            'state' => [Job::WAITING, Job::RUNNING],
        ]);
        foreach ($jobs as $job) {
            $asked = [];
            foreach (null === $pieces ? [] : $this->entities->getRepository(Piece::class)->findBy(['job' => $job]) as $piece) {
                $asked[$piece->key()] = $piece->payload();
            }
            if (null === $pieces || $asked === $pieces) {
                return $job;
            }
        }

        return null;
    }

    /** A waiting piece ends at once; a running one within two seconds, when it next reports. */
    public function cancel(Job $job): void
    {
        $this->connection->executeStatement('UPDATE job SET cancel_requested = ? WHERE id = ?', [true, $job->id()], [ParameterType::BOOLEAN]);
        $running = $this->connection->fetchOne(
            "SELECT COUNT(*) FROM job_piece WHERE job_id = ? AND state = 'running' AND lease_until >= ?",
            [$job->id(), $this->store->now()],
        );
        if (0 === (int) (is_numeric($running) ? $running : 0) && $this->queue->end($job->id(), Job::CANCELLED, null)) {
            foreach ($this->runners as $runner) {
                if ($runner->kind() === $job->kind()) {
                    $runner->abandon($job, null);
                }
            }
        }
    }

    public function view(Job $job): JobView
    {
        return $this->views([$job])[0];
    }

    /**
     * Where each stands now, asked once for all.
     *
     * @param list<Job> $jobs
     *
     * @return list<JobView>
     */
    private function views(array $jobs): array
    {
        $rows = $this->connection->fetchAllAssociativeIndexed(
            'SELECT j.id, j.state, j.message, j.started_at, j.ended_at,'
            .' (SELECT SUM(share) FROM job_piece p WHERE p.job_id = j.id) AS done FROM job j WHERE j.id IN (?)',
            [array_map(static fn (Job $j): int => $j->id(), $jobs)],
            [ArrayParameterType::INTEGER],
        );

        return array_map(fn (Job $job): JobView => $this->told($job, $rows[$job->id()] ?? []), $jobs);
    }

    /** @param array<string, mixed> $row */
    private function told(Job $job, array $row): JobView
    {
        $number = static fn (string $key): ?float => is_numeric($row[$key] ?? null) ? (float) $row[$key] : null;
        $total = $job->pieces() + ($job->pieces() > 1 ? 1 : 0);
        $share = min(1.0, ($number('done') ?? 0.0) / max(1, $total));
        $started = $number('started_at');
        $elapsed = null === $started ? 0.0 : ($number('ended_at') ?? microtime(true)) - $started;
        $left = $share > 0.02 && $share < 1.0 ? $elapsed * (1 - $share) / $share : null;

        $state = \is_string($row['state'] ?? null) ? $row['state'] : $job->state();
        $soFar = null;
        foreach (Job::RUNNING === $state ? $this->runners : [] as $runner) {
            if ($runner->kind() === $job->kind() && $runner instanceof TellsFigure) {
                $soFar = $runner->figureSoFar($job);
            }
        }

        return new JobView(
            $job->id(),
            $job->study()->id(),
            $job->study()->name(),
            $job->kind(),
            $job->subject(),
            $job->title(),
            $state,
            $share,
            $left,
            $elapsed,
            \is_string($row['message'] ?? null) ? $row['message'] : null,
            $soFar,
        );
    }

    /** @return list<JobView> work of the user's studies that is not over, and what ended in the last minutes */
    public function of(User $user): array
    {
        /** @var list<Job> $jobs */
        $jobs = $this->entities->createQuery("SELECT j FROM App\Job\Job j JOIN App\Study\StudyMember m WITH m.study = j.study WHERE m.user = :user AND (j.state IN ('waiting', 'running') OR j.endedAt > :since) ORDER BY j.id DESC")
            ->setParameter('user', $user)->setParameter('since', microtime(true) - 600)->setMaxResults(50)->getResult();

        return $this->views($jobs);
    }
}
