<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Fits a trial's learner to outcomes in which nothing acts together. */
final readonly class ClearPairsRunner implements PieceRunner
{
    public const KIND = 'clear pairs';

    public function __construct(private EntityManagerInterface $entities, private ClearPairs $pairs)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        $class = $piece->payload()['class'] ?? null;
        if (null !== $trial && $trial->isDone()) {
            $this->pairs->look($trial, \is_string($class) ? $class : null, $progress);
        }
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
