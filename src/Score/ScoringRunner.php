<?php

declare(strict_types=1);

namespace App\Score;

use App\Account\User;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\OpenCells;
use App\Storage\CellStore;
use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;
use Dokimos\Core\Stretch;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Task\Task;

/**
 * Scores a table of new records: the same preparation, the same model, no record lost.
 *
 * @phpstan-import-type Line from ScoredTables
 */
final readonly class ScoringRunner implements PieceRunner
{
    public const KIND = 'scoring';

    public function __construct(
        private EntityManagerInterface $entities,
        private OpenCells $reader,
        private Judgments $judgments,
        private Logbook $logbook,
        private ScoredTables $scored,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    /** @return array<string, array{chunk: int}> a piece for each chunk of the table */
    public static function pieces(DataTable $table): array
    {
        $pieces = [];
        for ($chunk = 0; 0 === $chunk || $chunk * ScoredTables::CHUNK < $table->rows(); ++$chunk) {
            $pieces['chunk '.$chunk] = ['chunk' => $chunk];
        }

        return $pieces;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $scoring = $this->entities->find(Scoring::class, $job->subject());
        if (null === $scoring || $scoring->isDone()) {
            return;
        }
        if (Piece::JOIN !== $piece->key()) {
            $chunk = $piece->payload()['chunk'] ?? 0;
            $this->chunk($scoring, \is_int($chunk) ? $chunk : 0, $progress);
        }
        if (Piece::JOIN === $piece->key() || 1 === $job->pieces()) {
            $this->finish($scoring, $job->user());
        }
    }

    /** All of it at once, as a part of other work. */
    public function whole(Scoring $scoring, User $user, Progress $progress): void
    {
        $pieces = self::pieces($scoring->table());
        $done = 0;
        foreach ($pieces as ['chunk' => $chunk]) {
            $this->chunk($scoring, $chunk, new Stretch($progress, $done / \count($pieces), ++$done / \count($pieces)));
        }
        $this->finish($scoring, $user);
    }

    private function chunk(Scoring $scoring, int $chunk, Progress $progress): void
    {
        $model = $scoring->isByHanded() ? $this->judgments->inUse($scoring->trial()) : $this->judgments->model($scoring->trial());
        $names = array_values(array_unique($scoring->matching()));
        $made = [] === $scoring->settled() ? null : $scoring->trial()->question()->table();
        $beyond = null === $made ? null : Beyond::of($made, array_map(strval(...), array_keys($scoring->settled())));
        $rows = min($scoring->table()->rows() - $chunk * ScoredTables::CHUNK, ScoredTables::CHUNK);
        $walk = $this->reader->walk($scoring->table(), $names);
        $frames = static function () use ($scoring, $model, $walk, $chunk, $rows, $progress, $beyond): \Generator {
            for ($frame = 0; $frame * FrameCodec::ROWS < $rows; ++$frame) {
                $progress->report(
                    $frame * FrameCodec::ROWS / max(1, $rows),
                    \sprintf('%s records scored', number_format($chunk * ScoredTables::CHUNK + $frame * FrameCodec::ROWS)),
                );
                $selected = $model->select($walk->at($chunk * CellStore::FRAMES + $frame), $scoring->matching());
                [$settled, $leave] = $beyond?->settled($selected, $scoring->settled()) ?? [$selected, []];
                yield self::without($model->score($settled), $leave);
            }
        };
        $this->scored->write($scoring, $chunk, $frames());
    }

    /**
     * @param list<Line>         $lines
     * @param array<int, string> $leave by row why
     *
     * @return list<Line>
     */
    private static function without(array $lines, array $leave): array
    {
        return array_map(static fn (int $row, array $line): array => isset($leave[$row])
            ? ['chance' => null, 'why' => 'left out: '.$leave[$row], 'reasons' => '']
                + (\array_key_exists('number', $line) ? ['number' => null] : [])
                + (\array_key_exists('class', $line) ? ['class' => null, 'shares' => []] : [])
            : $line, array_keys($lines), $lines);
    }

    private function finish(Scoring $scoring, User $user): void
    {
        $sums = $this->scored->summed($scoring);
        $scoring->finish($sums['scored'], $sums['called'], $sums['summary']);
        $this->logbook->write($scoring->study(), $user, 'decisions', \sprintf('Scored %s with trial %d%s: %s of %s records have %s.', $scoring->table()->name(), $scoring->trial()->number(), $scoring->isByHanded() ? ', fitted on all records' : '', number_format($scoring->scored()), number_format($scoring->table()->rows()), match ($scoring->task()) {
            Task::TWO => \sprintf(
                'a chance, %s reach the cut-off of %s%%',
                number_format($scoring->called()),
                (string) round(100 * $scoring->cutoff(), 1),
            ),
            Task::MORE => 'a likeliest class',
            default => 'a number',
        }));
        $this->entities->flush();
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $scoring = $this->entities->find(Scoring::class, $job->subject());
        if (null !== $scoring && !$scoring->isDone()) {
            $this->scored->discard($scoring);
            null === $failure ? $scoring->cancel() : $scoring->fail();
            $this->entities->flush();
        }
    }
}
