<?php

declare(strict_types=1);

namespace App\Tests\Store;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\DriverManager;
use Doctrine\DBAL\Types\BlobType;
use Doctrine\DBAL\Types\BooleanType;
use Doctrine\DBAL\Types\DateTimeType;
use Doctrine\DBAL\Types\DateType;
use Doctrine\DBAL\Types\StringType;
use Doctrine\DBAL\Types\TextType;
use Doctrine\Migrations\Configuration\Connection\ExistingConnection;
use Doctrine\Migrations\Configuration\Migration\ConfigurationArray;
use Doctrine\Migrations\DependencyFactory;
use Doctrine\Migrations\MigratorConfiguration;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A filled installation of every earlier layout goes up: nothing is lost, every reference holds. */
final class UpgradeTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function versions(): iterable
    {
        $all = glob(\dirname(__DIR__, 2).'/migrations/Version*.php') ?: [];
        array_pop($all);
        foreach ($all as $file) {
            yield basename($file, '.php') => ['App\Migrations\\'.basename($file, '.php')];
        }
    }

    private static function to(Connection $connection, string $version): void
    {
        $factory = DependencyFactory::fromConnection(
            new ConfigurationArray([
                'migrations_paths' => ['App\Migrations' => \dirname(__DIR__, 2).'/migrations'],
                'all_or_nothing' => false,
                'transactional' => false,
            ]),
            new ExistingConnection($connection),
        );
        $factory->getMetadataStorage()->ensureInitialized();
        $factory->getMigrator()->migrate(
            $factory->getMigrationPlanCalculator()->getPlanUntilVersion($factory->getVersionAliasResolver()->resolveVersionAlias($version)),
            (new MigratorConfiguration())->setAllOrNothing(false),
        );
    }

    /** Two rows in each table; what refers to another row refers to the first. */
    private static function fill(Connection $connection): void
    {
        foreach ($connection->createSchemaManager()->introspectSchema()->getTables() as $table) {
            if ('doctrine_migration_versions' === $table->getName()) {
                continue;
            }
            $refers = [];
            foreach ($table->getForeignKeys() as $key) {
                $refers = [...$refers, ...$key->getLocalColumns()];
            }
            foreach ([1, 2] as $n) {
                $row = [];
                foreach ($table->getColumns() as $column) {
                    $type = $column->getType();
                    $row['"'.$column->getName().'"'] = match (true) {
                        'id' === $column->getName() => $n,
                        'key_hash' === $column->getName() => "x$n",
                        // What is one for one is of the row of its own number.
                        \in_array($column->getName(), $refers, true) => $n,
                        $type instanceof BooleanType => 0,
                        $type instanceof DateType => '2026-01-01',
                        $type instanceof DateTimeType => '2026-01-01 00:00:00',
                        $type instanceof BlobType => "\0x",
                        $type instanceof TextType => $column->getNotnull() ? '[]' : null,
                        $type instanceof StringType => $column->getLength() < 5 ? (string) $n : "x$n",
                        default => $n,
                    };
                }
                $connection->insert($table->getName(), $row);
            }
        }
    }

    /** @return array<string, int> rows of each table */
    private static function counts(Connection $connection): array
    {
        $out = [];
        foreach ($connection->createSchemaManager()->listTableNames() as $name) {
            $count = $connection->fetchOne('SELECT COUNT(*) FROM '.$name);
            $out[$name] = is_numeric($count) ? (int) $count : 0;
        }
        unset($out['doctrine_migration_versions'], $out['sort_order']);

        return $out;
    }

    #[DataProvider('versions')]
    public function testAFilledInstallationGoesUp(string $version): void
    {
        $connection = DriverManager::getConnection(['driver' => 'sqlite3', 'memory' => true]);
        self::to($connection, $version);
        self::fill($connection);
        $before = self::counts($connection);
        self::assertSame([], $connection->fetchAllAssociative('PRAGMA foreign_key_check'));
        $connection->executeStatement('PRAGMA foreign_keys=OFF');
        $connection->transactional(static fn () => self::to($connection, 'latest'));
        $after = self::counts($connection);
        foreach ($before as $table => $rows) {
            self::assertGreaterThanOrEqual($rows, $after[$table] ?? -1, $table);
        }
        self::assertSame([], $connection->fetchAllAssociative('PRAGMA foreign_key_check'));
        self::assertSame('ok', $connection->fetchOne('PRAGMA integrity_check'));
    }
}
