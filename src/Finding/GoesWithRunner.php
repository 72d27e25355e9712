<?php

declare(strict_types=1);

namespace App\Finding;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Register\Looks;
use App\Table\TableColumn;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Asks the columns of a large table what they say about one of them; what is found is kept, so it may run twice. */
final readonly class GoesWithRunner implements PieceRunner
{
    public function __construct(private EntityManagerInterface $entities, private GoesWith $goesWith)
    {
    }

    public function kind(): string
    {
        return Looks::COLUMN;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $column = $this->entities->find(TableColumn::class, $job->subject());
        if (null !== $column && $column->table()->isReady()) {
            $this->goesWith->of($column);
        }
        $progress->report(1.0);
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
