<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Findings of a table, and those that were settled. */
final class Version20261123000003 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Findings of a table, and those that were settled';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE finding_document (stamp VARCHAR(64) NOT NULL, found CLOB NOT NULL, table_id INTEGER NOT NULL, PRIMARY KEY (table_id), CONSTRAINT FK_AFE9B8CDECFF285C FOREIGN KEY (table_id) REFERENCES data_table (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE TABLE finding_dismissal (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, at DATETIME NOT NULL, finding_key VARCHAR(600) NOT NULL, reason VARCHAR(300) NOT NULL, table_id INTEGER NOT NULL, user_id INTEGER DEFAULT NULL, CONSTRAINT FK_9EF1F840ECFF285C FOREIGN KEY (table_id) REFERENCES data_table (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE, CONSTRAINT FK_9EF1F840A76ED395 FOREIGN KEY (user_id) REFERENCES account_user (id) ON DELETE SET NULL NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE INDEX IDX_9EF1F840ECFF285C ON finding_dismissal (table_id)');
        $this->addSql('CREATE INDEX IDX_9EF1F840A76ED395 ON finding_dismissal (user_id)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_9EF1F840ECFF285CDF699754 ON finding_dismissal (table_id, finding_key)');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
