<?php

declare(strict_types=1);

namespace App\Decision;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\OpenCells;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;
use Dokimos\Core\Task\Task;

/** Scores a table of new records: the same preparation, the same model, no record lost. */
final readonly class ScoringRunner implements PieceRunner
{
    public const KIND = 'scoring';
    private const CHUNK = 4096;

    public function __construct(private EntityManagerInterface $entities, private OpenCells $reader, private Judgments $judgments, private Logbook $logbook)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $scoring = $this->entities->find(Scoring::class, $job->subject());
        if (null === $scoring || 'done' === $scoring->state()) {
            return;
        }
        $model = $this->judgments->model($scoring->trial());
        $table = $this->reader->table($scoring->table(), array_values($scoring->matching()));
        $selected = $model->select($table, $scoring->matching());
        $lines = [];
        for ($from = 0; $from < $table->rows; $from += self::CHUNK) {
            $progress->report($from / max(1, $table->rows), \sprintf('%s records scored', number_format($from)));
            array_push($lines, ...$model->score($selected->take(range($from, min($table->rows, $from + self::CHUNK) - 1))));
        }
        $scoring->finish($lines);
        $this->logbook->write($scoring->study(), $job->user(), 'decisions', \sprintf('Scored %s with trial %d: %s of %s records have %s.', $scoring->table()->name(), $scoring->trial()->number(), number_format($scoring->scored()), number_format(\count($lines)), match ($model->task) {
            Task::TWO => \sprintf('a chance, %s reach the cut-off of %s%%', number_format($scoring->called()), (string) round(100 * $scoring->cutoff(), 1)),
            Task::MORE => 'a likeliest class',
            default => 'a number',
        }));
        $this->entities->flush();
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $scoring = $this->entities->find(Scoring::class, $job->subject());
        if (null !== $scoring && 'done' !== $scoring->state()) {
            null === $failure ? $scoring->cancel() : $scoring->fail();
            $this->entities->flush();
        }
    }
}
