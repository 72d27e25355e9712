<?php

declare(strict_types=1);

namespace App\Picture;

use App\Finding\Findings;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Register\Looks;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Looks a large table over, a picture or the findings at a time; what is made is kept, so a piece may run twice. */
final readonly class LookRunner implements PieceRunner
{
    public function __construct(private EntityManagerInterface $entities, private Findings $findings, private Pictures $pictures)
    {
    }

    public function kind(): string
    {
        return Looks::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $table = $this->entities->find(DataTable::class, $job->subject());
        if (null === $table || !$table->isReady()) {
            return;
        }
        match ($piece->key()) {
            'findings' => $this->findings->of($table),
            'missing' => $this->pictures->missing($table),
            'apart' => $this->pictures->apart($table),
            'lopsided' => $this->pictures->lopsided($table),
            'repeats' => $this->pictures->repeats($table, null),
            'together' => $this->pictures->together($table),
            default => null,
        };
        $progress->report(1.0);
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
