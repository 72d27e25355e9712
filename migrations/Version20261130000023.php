<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Models at work: approvals, services with their versions and tokens, and models that were taken away. */
final class Version20261130000023 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Models at work';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("CREATE TABLE approval (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            number INTEGER NOT NULL,
            approved_by VARCHAR(120) NOT NULL,
            sentence VARCHAR(1000) NOT NULL,
            usage_limits VARCHAR(2000) NOT NULL,
            again DATE NOT NULL,
            beyond_rule VARCHAR(40) NOT NULL,
            cutoff DOUBLE PRECISION NOT NULL,
            evidence CLOB NOT NULL,
            model CLOB NOT NULL,
            created_at DATETIME NOT NULL,
            withdrawn_at DATETIME DEFAULT NULL,
            withdrawn_why VARCHAR(1000) DEFAULT '' NOT NULL,
            withdrawn_by VARCHAR(120) DEFAULT '' NOT NULL,
            study_id INTEGER NOT NULL,
            user_id INTEGER DEFAULT NULL,
            trial_id INTEGER DEFAULT NULL,
            CONSTRAINT FK_approval_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE,
            CONSTRAINT FK_approval_user FOREIGN KEY (user_id) REFERENCES account_user (id) ON DELETE SET NULL,
            CONSTRAINT FK_approval_trial FOREIGN KEY (trial_id) REFERENCES trial (id) ON DELETE SET NULL
        )");
        $this->addSql('CREATE UNIQUE INDEX UNIQ_approval_number ON approval (study_id, number)');
        $this->addSql('CREATE INDEX IDX_approval_study ON approval (study_id)');
        $this->addSql('CREATE INDEX IDX_approval_user ON approval (user_id)');
        $this->addSql('CREATE INDEX IDX_approval_trial ON approval (trial_id)');
        $this->addSql('CREATE TABLE service (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            name VARCHAR(60) NOT NULL,
            version INTEGER DEFAULT NULL,
            paused BOOLEAN DEFAULT 0 NOT NULL,
            created_at DATETIME NOT NULL,
            study_id INTEGER NOT NULL,
            CONSTRAINT FK_service_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_service_name ON service (name)');
        $this->addSql('CREATE INDEX IDX_service_study ON service (study_id)');
        $this->addSql('CREATE TABLE service_version (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            number INTEGER NOT NULL,
            package CLOB NOT NULL,
            example CLOB NOT NULL,
            created_at DATETIME NOT NULL,
            service_id INTEGER NOT NULL,
            approval_id INTEGER NOT NULL,
            CONSTRAINT FK_service_version_service FOREIGN KEY (service_id) REFERENCES service (id) ON DELETE CASCADE,
            CONSTRAINT FK_service_version_approval FOREIGN KEY (approval_id) REFERENCES approval (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_service_version_number ON service_version (service_id, number)');
        $this->addSql('CREATE INDEX IDX_service_version_service ON service_version (service_id)');
        $this->addSql('CREATE INDEX IDX_service_version_approval ON service_version (approval_id)');
        $this->addSql('CREATE TABLE service_token (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            caller VARCHAR(120) NOT NULL,
            hash VARCHAR(64) NOT NULL,
            tail VARCHAR(4) NOT NULL,
            expires DATE DEFAULT NULL,
            per_minute INTEGER NOT NULL,
            per_day INTEGER NOT NULL,
            reasons BOOLEAN NOT NULL,
            created_at DATETIME NOT NULL,
            revoked_at DATETIME DEFAULT NULL,
            service_id INTEGER NOT NULL,
            CONSTRAINT FK_service_token_service FOREIGN KEY (service_id) REFERENCES service (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_service_token_hash ON service_token (hash)');
        $this->addSql('CREATE INDEX IDX_service_token_service ON service_token (service_id)');
        $this->addSql('CREATE TABLE service_tally (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            version INTEGER NOT NULL,
            day VARCHAR(10) NOT NULL,
            calls INTEGER NOT NULL,
            records INTEGER NOT NULL,
            refused INTEGER NOT NULL,
            times CLOB NOT NULL,
            columns CLOB NOT NULL,
            last_at DATETIME NOT NULL,
            service_id INTEGER NOT NULL,
            token_id INTEGER NOT NULL,
            CONSTRAINT FK_service_tally_service FOREIGN KEY (service_id) REFERENCES service (id) ON DELETE CASCADE,
            CONSTRAINT FK_service_tally_token FOREIGN KEY (token_id) REFERENCES service_token (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_service_tally ON service_tally (service_id, version, token_id, day)');
        $this->addSql('CREATE INDEX IDX_service_tally_service ON service_tally (service_id)');
        $this->addSql('CREATE INDEX IDX_service_tally_token ON service_tally (token_id)');
        $this->addSql('CREATE TABLE taken_away (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            form VARCHAR(40) NOT NULL,
            bytes CLOB NOT NULL,
            size INTEGER NOT NULL,
            proof CLOB NOT NULL,
            draft BOOLEAN NOT NULL,
            taken_by VARCHAR(120) NOT NULL,
            created_at DATETIME NOT NULL,
            study_id INTEGER NOT NULL,
            trial_id INTEGER NOT NULL,
            CONSTRAINT FK_taken_away_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE,
            CONSTRAINT FK_taken_away_trial FOREIGN KEY (trial_id) REFERENCES trial (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE INDEX IDX_taken_away_study ON taken_away (study_id)');
        $this->addSql('CREATE INDEX IDX_taken_away_trial ON taken_away (trial_id)');
    }
}
