<?php

declare(strict_types=1);

namespace App\Operation;

use App\Storage\CellStore;
use App\Study\Study;
use Doctrine\DBAL\Connection;

/** Clears away at start-up what was never finished and what has been deleted for thirty days. */
final readonly class Housekeeping
{
    public function __construct(private Connection $connection, private CellStore $store)
    {
    }

    /** @return list<string> */
    public function run(): array
    {
        $done = [];
        $orphans = $this->connection->fetchFirstColumn("SELECT t.id FROM data_table t WHERE t.state = 'failed' OR t.state = 'importing' AND NOT EXISTS (SELECT 1 FROM job j WHERE j.kind = 'import' AND j.subject = t.id AND j.state IN ('waiting', 'running'))");
        foreach ($orphans as $id) {
            if (is_numeric($id)) {
                $this->store->discard((int) $id);
                $this->connection->executeStatement('DELETE FROM data_table WHERE id = ?', [$id]);
            }
        }
        if ([] !== $orphans) {
            $done[] = \sprintf('%d unfinished imports cleared away.', \count($orphans));
        }
        $purged = $this->connection->executeStatement('DELETE FROM study WHERE deleted_at < ?', [gmdate('Y-m-d H:i:s', time() - Study::DAYS_KEPT * 86400)]);
        if ($purged > 0) {
            $done[] = \sprintf('%d studies deleted over 30 days ago are gone for good.', $purged);
        }
        $this->connection->executeStatement('PRAGMA incremental_vacuum(2000)');

        return $done;
    }
}
