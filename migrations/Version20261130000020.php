<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Decisions over scored tables. */
final class Version20261130000020 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Decisions over scored tables';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE decision (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            version INTEGER DEFAULT 1 NOT NULL,
            terms CLOB NOT NULL,
            measured CLOB DEFAULT NULL,
            created_at DATETIME NOT NULL,
            name VARCHAR(120) NOT NULL,
            scoring_id INTEGER NOT NULL,
            CONSTRAINT FK_decision_scoring FOREIGN KEY (scoring_id) REFERENCES scoring (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE INDEX IDX_decision_scoring ON decision (scoring_id)');
    }
}
