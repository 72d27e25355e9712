<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Later days to look at an approved model again; the file that a study is done again from. */
final class Version20261130000025 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Later days to look again; studies made from a file';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE approval ADD COLUMN later CLOB DEFAULT NULL');
        $this->addSql('CREATE TABLE study_plan (
            study_id INTEGER NOT NULL,
            file CLOB NOT NULL,
            done CLOB NOT NULL,
            PRIMARY KEY (study_id),
            CONSTRAINT FK_study_plan_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE
        )');
    }
}
