<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Counts the tolls of steps in all rows of a large table. */
final readonly class TollRunner implements PieceRunner
{
    public function __construct(private EntityManagerInterface $entities, private Variants $variants)
    {
    }

    public function kind(): string
    {
        return CountedTolls::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $variant = $this->entities->find(Variant::class, $job->subject());
        /** @var list<array<string, mixed>> $steps */
        $steps = $piece->payload()['steps'] ?? [];
        if (null !== $variant) {
            $this->variants->countAll($variant, $steps, $progress);
        }
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
