<?php

declare(strict_types=1);

namespace App\Operation;

use App\Service\Inputs;
use App\Storage\CellStore;
use App\Storage\Store;
use App\Study\Study;
use Doctrine\DBAL\Connection;
use Symfony\Component\Cache\PruneableInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** Clears away at start-up, and every hour, what was never finished and what has been deleted for thirty days. */
final readonly class Housekeeping
{
    /** Seconds that a file which was sent may wait to be imported. */
    private const UPLOADS_KEPT = 86400;

    public function __construct(
        private Connection $connection,
        private CellStore $store,
        private Inputs $inputs,
        private Store $database,
        private string $dataDirectory,
        #[Autowire(service: 'cache.rate_limiter')]
        private PruneableInterface $attempts,
        #[Autowire(service: 'cache.app')]
        private PruneableInterface $kept,
    ) {
    }

    /** @return list<string> */
    public function run(): array
    {
        $done = [];
        $orphans = $this->connection->fetchFirstColumn(
            "SELECT t.id FROM data_table t WHERE t.state = 'failed' OR t.state = 'scored' AND NOT EXISTS (SELECT 1 FROM scoring s WHERE s.answers_id = t.id AND s.state IN ('waiting', 'done')) OR t.state = 'importing' AND NOT EXISTS (SELECT 1 FROM job j WHERE j.kind = 'import' AND j.subject = t.id AND j.state IN ('waiting', 'running'))",
        );
        foreach ($orphans as $id) {
            if (is_numeric($id)) {
                $this->store->discard((int) $id);
                $this->connection->executeStatement('DELETE FROM data_table WHERE id = ?', [$id]);
            }
        }
        if ([] !== $orphans) {
            $done[] = \sprintf('%d unfinished imports cleared away.', \count($orphans));
        }
        $uploads = $this->clearUploads();
        if ($uploads > 0) {
            $done[] = \sprintf('%d files that were sent and not imported cleared away.', $uploads);
        }
        $results = $this->connection->executeStatement(
            "DELETE FROM fold_result WHERE trial_id IN (SELECT id FROM trial WHERE state IN ('failed', 'cancelled'))",
        );
        if ($results > 0) {
            $done[] = \sprintf('%d results of trials that were not finished cleared away.', $results);
        }
        $purged = $this->connection->executeStatement(
            'DELETE FROM study WHERE deleted_at < ?',
            [gmdate('Y-m-d H:i:s', time() - Study::DAYS_KEPT * 86400)],
        );
        if ($purged > 0) {
            $done[] = \sprintf('%d studies deleted over 30 days ago are gone for good.', $purged);
        }
        $scored = $this->forgetScored();
        if ($scored > 0) {
            $done[] = \sprintf('%d batches of scored records are gone: their days are over.', $scored);
        }
        $days = $this->connection->fetchAllKeyValue('SELECT id, keep_days FROM service');
        foreach ($this->inputs->services() as $service) {
            $kept = $days[$service] ?? 0;
            $this->inputs->forget($service, is_numeric($kept) ? (int) $kept : 0);
        }
        $this->attempts->prune();
        $this->kept->prune();
        $this->database->reclaim();

        return $done;
    }

    /** Batches, with their records and lists, of studies whose owner set how long they stay. */
    private function forgetScored(): int
    {
        $gone = 0;
        foreach ($this->connection->fetchAllKeyValue('SELECT id, keep_days FROM study WHERE keep_days > 0') as $study => $days) {
            foreach ($this->connection->fetchAllKeyValue(
                'SELECT id, answers_id FROM scoring WHERE study_id = ? AND created_at < ?',
                [$study, gmdate('Y-m-d H:i:s', time() - 86400 * (is_numeric($days) ? (int) $days : 0))],
            ) as $scoring => $answers) {
                $this->connection->executeStatement('DELETE FROM scoring WHERE id = ?', [$scoring]);
                if (is_numeric($answers)) {
                    $this->store->discard((int) $answers);
                    $this->connection->executeStatement('DELETE FROM data_table WHERE id = ?', [$answers]);
                }
                ++$gone;
            }
        }

        return $gone;
    }

    /** Files that nobody has imported for a day, and files that belong to no upload. */
    private function clearUploads(): int
    {
        $used = [];
        foreach ($this->connection->fetchFirstColumn(
            "SELECT p.payload FROM job_piece p JOIN job j ON j.id = p.job_id WHERE j.kind = 'import' AND j.state IN ('waiting', 'running')",
        ) as $payload) {
            $of = \is_string($payload) ? json_decode($payload, true) : null;
            if (\is_array($of) && \is_int($of['upload'] ?? null)) {
                $used[$of['upload']] = true;
            }
        }
        $cleared = 0;
        foreach ($this->connection->fetchFirstColumn(
            'SELECT id FROM upload WHERE created_at < ?',
            [gmdate('Y-m-d H:i:s', time() - self::UPLOADS_KEPT)],
        ) as $id) {
            if (is_numeric($id) && !isset($used[(int) $id])) {
                $this->connection->executeStatement('DELETE FROM upload WHERE id = ?', [$id]);
                ++$cleared;
            }
        }
        $known = array_flip(
            array_map(
                static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0,
                $this->connection->fetchFirstColumn('SELECT id FROM upload'),
            ),
        );
        foreach (glob($this->dataDirectory.'/uploads/*.part*') ?: [] as $file) {
            if (!isset($known[(int) basename($file)])) {
                @unlink($file);
            }
        }

        return $cleared;
    }
}
