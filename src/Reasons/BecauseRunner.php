<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Score\Scoring;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Looks at why the records of a scored list have their answers. */
final readonly class BecauseRunner implements PieceRunner
{
    public const KIND = 'because';

    public function __construct(private EntityManagerInterface $entities, private Because $because)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $scoring = $this->entities->find(Scoring::class, $job->subject());
        if (null !== $scoring && $scoring->isDone()) {
            $this->because->look($scoring, $progress);
        }
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
