<?php

declare(strict_types=1);

namespace App\Job;

use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Refusal;
use Dokimos\Core\Stopped;
use Psr\Log\LoggerInterface;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

/** Does one piece and says how it ended. */
final readonly class RunPieceHandler
{
    /** @param iterable<PieceRunner> $runners */
    public function __construct(
        private EntityManagerInterface $entities,
        private PieceQueue $queue,
        private LoggerInterface $logger,
        #[AutowireIterator('dokimos.piece_runner')]
        private iterable $runners,
    ) {
    }

    #[AsMessageHandler]
    public function __invoke(RunPiece $message): void
    {
        $piece = $this->entities->find(Piece::class, $message->piece);
        if (null === $piece || $piece->job()->isOver()) {
            return;
        }
        $job = $piece->job();
        $runner = $this->runner($job->kind());
        if ($piece->attempts() > PieceQueue::MOST_ATTEMPTS) {
            $this->end(
                $runner,
                $job,
                Job::FAILED,
                'A part of this work ended its worker twice, most likely for want of memory. Nothing else was lost; try it on fewer rows or columns.',
            );

            return;
        }
        $progress = new PieceProgress($this->queue, $piece->id());
        try {
            $progress->report(0.0);
            $runner->run($job, $piece, $progress);
            $this->queue->complete($piece);
        } catch (Stopped) {
            $this->end($runner, $job, Job::CANCELLED, null);
        } catch (Refusal $e) {
            $this->end($runner, $job, Job::FAILED, $e->getMessage());
        } catch (\Throwable $e) {
            if (str_contains($e->getMessage(), 'disk is full')) {
                $this->end($runner, $job, Job::FAILED, 'The disk is full. Nothing half-done was kept; free some space and start it again.');

                return;
            }
            $this->logger->error(
                'Piece {key} of job {job} failed: {message}',
                ['key' => $piece->key(), 'job' => $job->id(), 'message' => $e->getMessage(), 'exception' => $e],
            );
            $this->end(
                $runner,
                $job,
                Job::FAILED,
                'Something went wrong that should not have; the log has the details. Nothing else was changed.',
            );
        }
    }

    private function end(PieceRunner $runner, Job $job, string $state, ?string $message): void
    {
        if ($this->queue->end($job->id(), $state, $message)) {
            $this->entities->clear();
            $fresh = $this->entities->find(Job::class, $job->id());
            if (null !== $fresh) {
                $runner->abandon($fresh, $message);
            }
        }
    }

    private function runner(string $kind): PieceRunner
    {
        foreach ($this->runners as $runner) {
            if ($runner->kind() === $kind) {
                return $runner;
            }
        }

        throw new \LogicException(\sprintf('Nobody runs jobs of kind "%s".', $kind));
    }
}
