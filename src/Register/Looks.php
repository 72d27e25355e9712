<?php

declare(strict_types=1);

namespace App\Register;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\HttpFoundation\JsonResponse;

/** Looking a large table over is work for a worker: findings and pictures wait for it, small tables do not. */
final readonly class Looks
{
    public const KIND = 'look';
    /** What goes with one column. */
    public const COLUMN = 'look at column';
    /** So many cells are looked over within a second or so. */
    private const AT_ONCE = 200_000;
    /** So many cells are read within seconds. */
    private const READ_QUICKLY = 10_000_000;
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
        $pieces = [];
        // What asks every pair, or reads millions of cells, goes to the workers for long work, so that the rest is there at once.
        $long = ['findings', 'together', ...($table->rows() * \count($table->columns()) > self::READ_QUICKLY ? ['repeats'] : [])];
        foreach (['findings', 'missing', 'apart', 'lopsided', 'repeats', 'together'] as $key) {
            $pieces[$key] = ['lane' => \in_array($key, $long, true) ? Jobs::LONG : Jobs::QUICK];
        }

        $says = [\sprintf('Looking %s over', $table->name()), \sprintf('%s could not be looked over', $table->name())];

        return $this->begun($table->study(), $user, self::KIND, $table->id(), $says, $pieces);
    }

    /** The same for what goes with one column. */
    public function answerOn(TableColumn $column, User $user): JsonResponse
    {
        $says = [
            \sprintf('Asking what goes with %s', $column->name()),
            \sprintf('What goes with %s could not be told', $column->name()),
        ];

        return $this->begun($column->study(), $user, self::COLUMN, $column->id(), $says, ['goes with' => ['lane' => Jobs::LONG]]);
    }

    /**
     * @param array{string, string}               $says   what is done, and that it failed
     * @param array<string, array<string, mixed>> $pieces
     */
    private function begun(Study $study, User $user, string $kind, int $subject, array $says, array $pieces): JsonResponse
    {
        $last = $this->entities->getRepository(Job::class)->findOneBy(['kind' => $kind, 'subject' => $subject], ['id' => 'DESC']);
        $view = null === $last ? null : $this->jobs->view($last);
        if (null !== $view && Job::FAILED === $view->state && microtime(true) - ($last?->endedAt() ?? 0.0) < self::SECONDS) {
            throw new Problem(503, $says[1].': '.($view->message ?? 'the work ended without a word.'));
        }
        if (null === $view || \in_array($view->state, [Job::DONE, Job::FAILED, Job::CANCELLED], true)) {
            $job = $this->jobs->start($study, $user, $kind, $subject, $says[0], Jobs::QUICK, $pieces);
            $this->entities->flush();
            $view = $this->jobs->view($job);
        }

        return new JsonResponse(['job' => $view], 202, ['Retry-After' => '1']);
    }
}
