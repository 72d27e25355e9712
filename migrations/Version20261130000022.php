<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Narrowed records that have a name. */
final class Version20261130000022 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Narrowed records that have a name';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE named_selection (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            name VARCHAR(120) NOT NULL,
            view VARCHAR(60) NOT NULL,
            query VARCHAR(4000) NOT NULL,
            records INTEGER NOT NULL,
            created_at DATETIME NOT NULL,
            study_id INTEGER NOT NULL,
            CONSTRAINT FK_named_selection_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE INDEX IDX_named_selection_study ON named_selection (study_id)');
    }
}
