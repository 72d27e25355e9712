<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Scorings that are done again. */
final class Version20261130000021 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Scorings that are done again';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE routine (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            version INTEGER DEFAULT 1 NOT NULL,
            plan CLOB NOT NULL,
            last CLOB DEFAULT NULL,
            next_at DATETIME DEFAULT NULL,
            created_at DATETIME NOT NULL,
            name VARCHAR(120) NOT NULL,
            study_id INTEGER NOT NULL,
            user_id INTEGER NOT NULL,
            trial_id INTEGER NOT NULL,
            CONSTRAINT FK_routine_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE,
            CONSTRAINT FK_routine_user FOREIGN KEY (user_id) REFERENCES account_user (id) ON DELETE CASCADE,
            CONSTRAINT FK_routine_trial FOREIGN KEY (trial_id) REFERENCES trial (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE INDEX IDX_routine_study ON routine (study_id)');
    }
}
