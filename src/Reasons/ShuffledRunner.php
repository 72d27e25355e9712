<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Fits the folds of a trial once more and shuffles columns among the rows they had not seen. */
final readonly class ShuffledRunner implements PieceRunner
{
    public const KIND = 'shuffled';

    public function __construct(private EntityManagerInterface $entities, private Shuffled $shuffled)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        $asked = $piece->payload();
        if (null !== $trial && $trial->isDone() && \is_string($asked['figure'] ?? null) && \is_int($asked['repeats'] ?? null)) {
            $this->shuffled->look($trial, $asked['figure'], $asked['repeats'], $progress);
        }
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
