<?php

declare(strict_types=1);

namespace App\Decision;

use App\Http\Problem;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Does a routine once. */
final readonly class RoutineRunner implements PieceRunner
{
    public const KIND = 'routine';

    public function __construct(private EntityManagerInterface $entities, private Routines $routines)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $routine = $this->entities->find(Routine::class, $job->subject());
        if (null !== $routine) {
            try {
                $this->routines->run($routine, $progress);
            } catch (Problem $e) {
                throw new CannotRun($e->getMessage(), 0, $e);
            }
        }
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $routine = $this->entities->find(Routine::class, $job->subject());
        if (null !== $routine) {
            $this->routines->failed($routine, $failure ?? 'It was cancelled.');
        }
    }
}
