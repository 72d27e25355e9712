<?php

declare(strict_types=1);

namespace App\Register;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\HttpFoundation\JsonResponse;

/** Looking a large table over is work for a worker: findings and pictures wait for it, small tables do not. */
final readonly class Looks
{
    public const KIND = 'look';
    /** So many cells are looked over within a second or so. */
    private const AT_ONCE = 200_000;
    /** Records that are looked at of larger tables. */
    private const MOST_ROWS = 20480;
    /** After a failure the same is not tried again at once. */
    private const SECONDS = 300;

    public function __construct(private EntityManagerInterface $entities, private Jobs $jobs)
    {
    }

    public function isLarge(DataTable $table): bool
    {
        return min($table->rows(), self::MOST_ROWS) * \count($table->columns()) > self::AT_ONCE;
    }

    /** Starts the work unless it is under way, and answers with it. */
    public function answer(DataTable $table, User $user): JsonResponse
    {
        $last = $this->entities->getRepository(Job::class)->findOneBy(['kind' => self::KIND, 'subject' => $table->id()], ['id' => 'DESC']);
        $view = null === $last ? null : $this->jobs->view($last);
        if (null !== $view && Job::FAILED === $view->state && microtime(true) - ($last?->endedAt() ?? 0.0) < self::SECONDS) {
            throw new Problem(
                503,
                \sprintf('%s could not be looked over: %s', $table->name(), $view->message ?? 'the work ended without a word.'),
            );
        }
        if (null === $view || \in_array($view->state, [Job::DONE, Job::FAILED, Job::CANCELLED], true)) {
            $pieces = [];
            foreach (['findings', 'missing', 'apart', 'lopsided', 'repeats', 'together'] as $key) {
                // What asks every pair goes to the workers for long work, so that the rest is there at once.
                $pieces[$key] = ['lane' => \in_array($key, ['findings', 'together'], true) ? Jobs::LONG : Jobs::QUICK];
            }
            $job = $this->jobs->start(
                $table->study(),
                $user,
                self::KIND,
                $table->id(),
                \sprintf('Looking %s over', $table->name()),
                Jobs::QUICK,
                $pieces,
            );
            $this->entities->flush();
            $view = $this->jobs->view($job);
        }

        return new JsonResponse(['job' => $view], 202, ['Retry-After' => '1']);
    }
}
