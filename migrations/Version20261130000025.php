<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Later days to look at an approved model again; the file that a study is done again from; what several machines share. */
final class Version20261130000025 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Later days to look again; studies made from a file; uploads, sessions and workers in the store';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE account_user ADD COLUMN second_factor CLOB DEFAULT NULL');
        $this->addSql("CREATE TABLE audit (
            id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
            at DOUBLE PRECISION NOT NULL,
            who VARCHAR(120) NOT NULL,
            what VARCHAR(400) NOT NULL,
            address VARCHAR(60) DEFAULT '' NOT NULL,
            hash VARCHAR(64) NOT NULL
        )");
        $this->addSql('ALTER TABLE study ADD COLUMN keep_days INTEGER DEFAULT 0 NOT NULL');
        $this->addSql('ALTER TABLE approval ADD COLUMN later CLOB DEFAULT NULL');
        $this->addSql('CREATE TABLE study_plan (
            study_id INTEGER NOT NULL,
            file CLOB NOT NULL,
            done CLOB NOT NULL,
            PRIMARY KEY (study_id),
            CONSTRAINT FK_study_plan_study FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE
        )');
        $this->addSql('CREATE TABLE upload_piece (
            upload_id INTEGER NOT NULL,
            piece_offset BIGINT NOT NULL,
            bytes BLOB NOT NULL,
            PRIMARY KEY (upload_id, piece_offset),
            CONSTRAINT FK_upload_piece_upload FOREIGN KEY (upload_id) REFERENCES upload (id) ON DELETE CASCADE
        )');
        $this->addSql("CREATE TABLE session (
            id_hash VARCHAR(64) NOT NULL,
            user_id INTEGER DEFAULT NULL,
            content BLOB NOT NULL,
            began DOUBLE PRECISION NOT NULL,
            seen DOUBLE PRECISION NOT NULL,
            address VARCHAR(60) DEFAULT '' NOT NULL,
            agent VARCHAR(200) DEFAULT '' NOT NULL,
            PRIMARY KEY (id_hash),
            CONSTRAINT FK_session_user FOREIGN KEY (user_id) REFERENCES account_user (id) ON DELETE CASCADE
        )");
        $this->addSql('CREATE INDEX IDX_session_user ON session (user_id)');
        $this->addSql('CREATE INDEX IDX_session_seen ON session (seen)');
        $this->addSql('CREATE TABLE worker (
            name VARCHAR(80) NOT NULL,
            machine VARCHAR(120) NOT NULL,
            pid INTEGER NOT NULL,
            lanes VARCHAR(120) NOT NULL,
            jit BOOLEAN NOT NULL,
            seen DOUBLE PRECISION NOT NULL,
            PRIMARY KEY (name)
        )');
    }
}
