<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A trial may use some of the columns, be calibrated, and be the best of a search; the figure that ranks can be chosen. */
final class Version20261129000017 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'A trial may use some of the columns, be calibrated, and be the best of a search; the figure that ranks can be chosen';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE trial ADD COLUMN choice CLOB DEFAULT NULL');
        $this->addSql("ALTER TABLE trial ADD COLUMN calibration VARCHAR(30) DEFAULT 'as they come' NOT NULL");
        $this->addSql('ALTER TABLE trial ADD COLUMN chosen CLOB DEFAULT NULL');
        $this->addSql('ALTER TABLE question ADD COLUMN figure VARCHAR(40) DEFAULT NULL');
        $this->addSql('ALTER TABLE question ADD COLUMN finalists CLOB DEFAULT NULL');
        $this->addSql('CREATE TABLE column_choice (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, name VARCHAR(80) NOT NULL, columns CLOB NOT NULL, study_id INTEGER NOT NULL, CONSTRAINT FK_9C1E4E22E7B003E9 FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE INDEX IDX_9C1E4E22E7B003E9 ON column_choice (study_id)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_9C1E4E22E7B003E95E237E06 ON column_choice (study_id, name)');
        $this->addSql('CREATE TABLE search (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, state VARCHAR(20) NOT NULL, failure VARCHAR(400) DEFAULT NULL, result CLOB DEFAULT NULL, created_at DATETIME NOT NULL, number INTEGER NOT NULL, hash VARCHAR(32) NOT NULL, figure VARCHAR(40) NOT NULL, asked CLOB NOT NULL, tries INTEGER NOT NULL, kind VARCHAR(10) DEFAULT \'settings\' NOT NULL, trial_id INTEGER DEFAULT NULL, study_id INTEGER NOT NULL, CONSTRAINT FK_B4F0DBA7B6F5C7D4 FOREIGN KEY (trial_id) REFERENCES trial (id) ON DELETE SET NULL NOT DEFERRABLE INITIALLY IMMEDIATE, CONSTRAINT FK_B4F0DBA7E7B003E9 FOREIGN KEY (study_id) REFERENCES question (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE INDEX IDX_B4F0DBA7B6F5C7D4 ON search (trial_id)');
        $this->addSql('CREATE INDEX IDX_B4F0DBA7E7B003E9 ON search (study_id)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_B4F0DBA7E7B003E996901F54 ON search (study_id, number)');
        $this->addSql('CREATE TABLE search_try (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, answers BLOB DEFAULT NULL, width INTEGER NOT NULL, place INTEGER NOT NULL, space INTEGER NOT NULL, variant INTEGER NOT NULL, choice INTEGER NOT NULL, settings CLOB NOT NULL, value DOUBLE PRECISION DEFAULT NULL, low DOUBLE PRECISION DEFAULT NULL, high DOUBLE PRECISION DEFAULT NULL, seconds DOUBLE PRECISION NOT NULL, why VARCHAR(400) DEFAULT NULL, reading INTEGER DEFAULT NULL, search_id INTEGER NOT NULL, CONSTRAINT FK_34E7A1A7650760A9 FOREIGN KEY (search_id) REFERENCES search (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE INDEX IDX_34E7A1A7650760A9 ON search_try (search_id)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_34E7A1A7650760A9741D53CD ON search_try (search_id, place)');
    }
}
