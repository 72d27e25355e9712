<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Looks at what matters in a trial, and at what acts together. */
final readonly class MattersRunner implements PieceRunner
{
    public const KIND = 'matters';

    public function __construct(private EntityManagerInterface $entities, private Matters $matters)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        if (null === $trial || !$trial->isDone()) {
            return;
        }
        $progress->report(0.0, 'many answers are asked for');
        $class = $piece->payload()['class'] ?? null;
        $this->matters->look($trial, \is_string($class) ? $class : null);
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
