<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Limits of how often something may be tried hold over all web servers. */
final class Version20261130000026 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Counts of attempts in the store';
    }

    public function up(Schema $schema): void
    {
        // Named as the adapter of the cache names them.
        $this->addSql('CREATE TABLE cache_items (
            item_id VARCHAR(255) NOT NULL,
            item_data BLOB NOT NULL,
            item_lifetime INTEGER DEFAULT NULL,
            item_time INTEGER NOT NULL,
            PRIMARY KEY (item_id)
        )');
    }
}
