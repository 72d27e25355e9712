<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What a study asks stands apart from the study. */
final class Version20261129000015 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'What a study asks stands apart from the study';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE question (id INTEGER NOT NULL, version INTEGER DEFAULT 1 NOT NULL, target VARCHAR(255) DEFAULT NULL, event VARCHAR(255) DEFAULT NULL, task VARCHAR(20) DEFAULT \'two classes\' NOT NULL, classes CLOB DEFAULT NULL, "plan" CLOB DEFAULT NULL, sealed CLOB DEFAULT NULL, seal_opened_at DATETIME DEFAULT NULL, table_id INTEGER DEFAULT NULL, study_id INTEGER NOT NULL, PRIMARY KEY (id), CONSTRAINT FK_B6F7494EECFF285C FOREIGN KEY (table_id) REFERENCES data_table (id) ON DELETE SET NULL NOT DEFERRABLE INITIALLY IMMEDIATE, CONSTRAINT FK_B6F7494EE7B003E9 FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('INSERT INTO question (id, target, event, task, classes, "plan", sealed, seal_opened_at, table_id, study_id) SELECT id, target, event, task, classes, "plan", sealed, seal_opened_at, table_id, id FROM study');
        $this->addSql('CREATE INDEX IDX_B6F7494EECFF285C ON question (table_id)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_B6F7494EE7B003E9 ON question (study_id)');
        $this->addSql('CREATE TABLE study_new (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, version INTEGER DEFAULT 1 NOT NULL, created_at DATETIME NOT NULL, deleted_at DATETIME DEFAULT NULL, name VARCHAR(120) NOT NULL, question VARCHAR(300) NOT NULL)');
        $this->addSql('INSERT INTO study_new (id, version, created_at, deleted_at, name, question) SELECT id, version, created_at, deleted_at, name, question FROM study');
        $this->addSql('DROP TABLE study');
        $this->addSql('ALTER TABLE study_new RENAME TO study');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
