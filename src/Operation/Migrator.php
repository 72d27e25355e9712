<?php

declare(strict_types=1);

namespace App\Operation;

use App\Storage\Baseline;
use App\Storage\Store;
use Doctrine\DBAL\Connection;
use Doctrine\Migrations\DependencyFactory;
use Doctrine\Migrations\MigratorConfiguration;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * Brings the database to the layout of this code. A server that has none yet gets it whole.
 *
 * SQLite changes a table by rebuilding it; with foreign keys on, that deletes the rows that point to it (measured). So: back up,
 * switch them off, migrate, check every reference, switch them on.
 */
final readonly class Migrator
{
    public function __construct(
        private Connection $connection,
        #[Autowire(service: 'doctrine.migrations.dependency_factory')]
        private DependencyFactory $migrations,
        private Backup $backup,
        private Store $store,
        private string $dataDirectory,
    ) {
    }

    /** @return list<string> what was done, in sentences */
    public function run(): array
    {
        $this->migrations->getMetadataStorage()->ensureInitialized();
        $status = $this->migrations->getMigrationStatusCalculator();
        if (\count($status->getExecutedUnavailableMigrations()) > 0) {
            throw new \RuntimeException(
                'The database was made by a newer version of Dokimos. Install that version, or restore a backup that fits this one.',
            );
        }
        $new = \count($status->getNewMigrations());
        if (0 === $new) {
            return ['The database is up to date.'];
        }
        $done = [];
        $first = 0 === \count($this->migrations->getMetadataStorage()->getExecutedMigrations());
        if (!$first) {
            // One that was stopped in the middle may have written its own in the same second.
            for ($n = 1; file_exists($file = \sprintf(
                '%s/backups/before-upgrade-%s%s.%s',
                $this->dataDirectory,
                date('Ymd-His'),
                1 === $n ? '' : '-'.$n,
                $this->backup->ending(),
            )); ++$n) {
            }
            $this->backup->write($file);
            $done[] = \sprintf('Backed up to %s.', $file);
        }
        if ($this->store->isShared() && $first) {
            (new Baseline($this->migrations))->layOut($this->connection, $this->migrations);

            return [\sprintf('Laid out in %s.', $this->store->title())];
        }
        // All of it or nothing: whoever stops it in the middle finds what was there before.
        $this->store->isShared() ? $this->connection->transactional($this->migrate(...)) : $this->rebuild();
        $done[] = \sprintf('%d %s applied, every reference checked.', $new, 1 === $new ? 'change' : 'changes');

        return $done;
    }

    private function migrate(): void
    {
        $plan = $this->migrations->getMigrationPlanCalculator()->getPlanUntilVersion(
            $this->migrations->getVersionAliasResolver()->resolveVersionAlias('latest'),
        );
        $this->migrations->getMigrator()->migrate($plan, (new MigratorConfiguration())->setAllOrNothing(false));
    }

    private function rebuild(): void
    {
        $this->connection->executeStatement('PRAGMA foreign_keys=OFF');
        try {
            $this->connection->transactional(function (): void {
                $this->migrate();
                $broken = $this->connection->fetchAllAssociative('PRAGMA foreign_key_check');
                if ([] !== $broken) {
                    throw new \RuntimeException(
                        \sprintf('The upgrade would leave %d broken references. Nothing was changed.', \count($broken)),
                    );
                }
            });
        } finally {
            $this->connection->executeStatement('PRAGMA foreign_keys=ON');
        }
    }
}
