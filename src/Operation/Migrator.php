<?php

declare(strict_types=1);

namespace App\Operation;

use Doctrine\DBAL\Connection;
use Doctrine\Migrations\DependencyFactory;
use Doctrine\Migrations\MigratorConfiguration;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * Brings the database to the layout of this code.
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
        private string $dataDirectory,
    ) {
    }

    /** @return list<string> what was done, in sentences */
    public function run(): array
    {
        $this->migrations->getMetadataStorage()->ensureInitialized();
        $status = $this->migrations->getMigrationStatusCalculator();
        if (\count($status->getExecutedUnavailableMigrations()) > 0) {
            throw new \RuntimeException('The database was made by a newer version of Dokimos. Install that version, or restore a backup that fits this one.');
        }
        $new = \count($status->getNewMigrations());
        if (0 === $new) {
            return ['The database is up to date.'];
        }
        $done = [];
        if (\count($this->migrations->getMetadataStorage()->getExecutedMigrations()) > 0) {
            $file = \sprintf('%s/backups/before-upgrade-%s.sqlite', $this->dataDirectory, date('Ymd-His'));
            $this->backup->write($file);
            $done[] = \sprintf('Backed up to %s.', $file);
        }
        $this->connection->executeStatement('PRAGMA foreign_keys=OFF');
        try {
            $plan = $this->migrations->getMigrationPlanCalculator()->getPlanUntilVersion($this->migrations->getVersionAliasResolver()->resolveVersionAlias('latest'));
            $this->migrations->getMigrator()->migrate($plan, (new MigratorConfiguration())->setAllOrNothing(false));
            $broken = $this->connection->fetchAllAssociative('PRAGMA foreign_key_check');
            if ([] !== $broken) {
                throw new \RuntimeException(\sprintf('The upgrade left %d broken references. Restore the backup made before it.', \count($broken)));
            }
        } finally {
            $this->connection->executeStatement('PRAGMA foreign_keys=ON');
        }
        $done[] = \sprintf('%d %s applied, every reference checked.', $new, 1 === $new ? 'change' : 'changes');

        return $done;
    }
}
