<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Outcomes of sealed rows are hidden until the seal is opened. */
final class Version20261129000010 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Outcomes of sealed rows are hidden until the seal is opened';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE study ADD COLUMN seal_opened_at DATETIME DEFAULT NULL');
        $this->addSql('UPDATE study SET seal_opened_at = CURRENT_TIMESTAMP WHERE id IN (SELECT study_id FROM trial WHERE sealed_figures IS NOT NULL)');
        $this->addSql('ALTER TABLE data_table ADD COLUMN sealed_records CLOB DEFAULT NULL');
        $this->addSql('ALTER TABLE table_column ADD COLUMN visible CLOB DEFAULT NULL');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
