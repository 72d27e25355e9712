<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\DriverManager;
use Doctrine\DBAL\Platforms\PostgreSQLPlatform;
use Doctrine\DBAL\Schema\Schema;
use Doctrine\DBAL\Types\BigIntType;
use Doctrine\DBAL\Types\IntegerType;
use Doctrine\DBAL\Types\Type;
use Doctrine\DBAL\Types\Types;
use Doctrine\Migrations\Configuration\Connection\ExistingConnection;
use Doctrine\Migrations\Configuration\Migration\ExistingConfiguration;
use Doctrine\Migrations\DependencyFactory;
use Doctrine\Migrations\MigratorConfiguration;
use Doctrine\Migrations\Version\ExecutionResult;

/**
 * The layout of the store as all migrations make it. A server that has none yet gets it whole: the migrations are run on an empty SQLite
 * database in memory, what they made is read back by Doctrine and written in the words of the server. So both have one source.
 */
final readonly class Baseline
{
    public function __construct(private DependencyFactory $migrations)
    {
    }

    /** The layout as SQLite has it after the newest migration. */
    public function schema(): Schema
    {
        $memory = DriverManager::getConnection(['driver' => 'sqlite3', 'memory' => true]);
        $factory = DependencyFactory::fromConnection(
            new ExistingConfiguration($this->migrations->getConfiguration()),
            new ExistingConnection($memory),
        );
        $factory->getMetadataStorage()->ensureInitialized();
        $factory->getMigrator()->migrate(
            $factory->getMigrationPlanCalculator()->getPlanUntilVersion($factory->getVersionAliasResolver()->resolveVersionAlias('latest')),
            (new MigratorConfiguration())->setAllOrNothing(false),
        );
        $schema = $memory->createSchemaManager()->introspectSchema();
        $metadata = 'doctrine_migration_versions';
        if ($schema->hasTable($metadata)) {
            $schema->dropTable($metadata);
        }

        return $schema;
    }

    /**
     * The statements that lay it out on a server: text in the order of its bytes, as SQLite has it, whole numbers of 64 bits.
     *
     * @return array{list<string>, list<string>} tables with their indexes, then what refers from one to another
     */
    public static function statements(Schema $schema): array
    {
        foreach ($schema->getTables() as $table) {
            $key = $table->getPrimaryKey()?->getColumns() ?? [];
            foreach ($table->getColumns() as $column) {
                $type = $column->getType();
                if (\in_array($type::class, [IntegerType::class, BigIntType::class], true)) {
                    $column->setType(Type::getType(Types::BIGINT));
                    // A key that refers to another table is given, never drawn.
                    $column->setAutoincrement($column->getAutoincrement() && ['id'] === $key && 'id' === $column->getName());
                }
                if ('BINARY' === ($column->getPlatformOptions()['collation'] ?? null)) {
                    $column->setPlatformOption('collation', 'C');
                }
            }
        }
        $all = $schema->toSql(new PostgreSQLPlatform());
        $refers = array_values(array_filter($all, static fn (string $sql): bool => str_contains($sql, ' FOREIGN KEY ')));

        return [array_values(array_diff($all, $refers)), $refers];
    }

    /**
     * Lays the store out on an empty server, all or nothing, and notes there that every migration is in it.
     *
     * @param DependencyFactory $there the migrations of that server
     */
    public function layOut(Connection $connection, DependencyFactory $there): void
    {
        [$tables, $refers] = self::statements($this->schema());
        $connection->transactional(static function (Connection $c) use ($tables, $refers): void {
            foreach ([...$tables, ...$refers] as $sql) {
                $c->executeStatement($sql);
            }
        });
        foreach ($there->getMigrationRepository()->getMigrations()->getItems() as $migration) {
            $there->getMetadataStorage()->complete(new ExecutionResult($migration->getVersion(), executedAt: new \DateTimeImmutable()));
        }
    }
}
