<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Thresholds of findings, set for a study. */
final class Version20261123000004 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Thresholds of findings, set for a study';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE finding_thresholds (changed CLOB NOT NULL, study_id INTEGER NOT NULL, PRIMARY KEY (study_id), CONSTRAINT FK_THRESHOLDS_STUDY FOREIGN KEY (study_id) REFERENCES study (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
