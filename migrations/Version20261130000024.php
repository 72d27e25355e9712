<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Tables that a model scored where they lie, and for how long a service keeps what callers send. */
final class Version20261130000024 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Tables scored inside a database; inputs of calls kept by choice';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("CREATE TABLE scored_inside (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            place VARCHAR(300) NOT NULL,
            connection INTEGER NOT NULL,
            source CLOB NOT NULL,
            carried CLOB NOT NULL,
            target VARCHAR(130) NOT NULL,
            state VARCHAR(20) NOT NULL,
            row_count INTEGER NOT NULL,
            seconds DOUBLE PRECISION NOT NULL,
            says CLOB DEFAULT '' NOT NULL,
            draft BOOLEAN NOT NULL,
            done_by VARCHAR(120) NOT NULL,
            created_at DATETIME NOT NULL,
            study_id INTEGER NOT NULL,
            trial_id INTEGER NOT NULL,
            CONSTRAINT FK_scored_inside_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE,
            CONSTRAINT FK_scored_inside_trial FOREIGN KEY (trial_id) REFERENCES trial (id) ON DELETE CASCADE
        )");
        $this->addSql('CREATE TABLE dossier (
            study_id INTEGER NOT NULL,
            left_out CLOB NOT NULL,
            comments CLOB NOT NULL,
            PRIMARY KEY (study_id),
            CONSTRAINT FK_dossier_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE
        )');
        $this->addSql('ALTER TABLE trial ADD COLUMN more CLOB DEFAULT NULL');
        $this->addSql("CREATE TABLE recheck (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            number INTEGER NOT NULL,
            asked CLOB NOT NULL,
            state VARCHAR(20) NOT NULL,
            verdict VARCHAR(30) DEFAULT '' NOT NULL,
            told CLOB DEFAULT NULL,
            failure VARCHAR(400) DEFAULT NULL,
            done_by VARCHAR(120) NOT NULL,
            created_at DATETIME NOT NULL,
            study_id INTEGER NOT NULL,
            trial_id INTEGER NOT NULL,
            table_id INTEGER NOT NULL,
            CONSTRAINT FK_recheck_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE,
            CONSTRAINT FK_recheck_trial FOREIGN KEY (trial_id) REFERENCES trial (id) ON DELETE CASCADE,
            CONSTRAINT FK_recheck_table FOREIGN KEY (table_id) REFERENCES data_table (id) ON DELETE CASCADE
        )");
        $this->addSql('CREATE UNIQUE INDEX UNIQ_recheck_number ON recheck (study_id, number)');
        $this->addSql('CREATE INDEX IDX_recheck_study ON recheck (study_id)');
        $this->addSql('CREATE INDEX IDX_recheck_trial ON recheck (trial_id)');
        $this->addSql('CREATE INDEX IDX_recheck_table ON recheck (table_id)');
        $this->addSql('ALTER TABLE service ADD COLUMN keep_days INTEGER DEFAULT 0 NOT NULL');
        $this->addSql('CREATE INDEX IDX_scored_inside_study ON scored_inside (study_id)');
        $this->addSql('CREATE INDEX IDX_scored_inside_trial ON scored_inside (trial_id)');
    }
}
