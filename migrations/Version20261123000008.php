<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Models stand apart from trials: a list of trials must not read them. */
final class Version20261123000008 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Models stand apart from trials';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE fitted_model (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, document CLOB NOT NULL)');
        $this->addSql('ALTER TABLE trial ADD COLUMN fitted_id INTEGER DEFAULT NULL REFERENCES fitted_model (id) ON DELETE SET NULL NOT DEFERRABLE INITIALLY IMMEDIATE');
        $this->addSql('INSERT INTO fitted_model (id, document) SELECT id, model FROM trial WHERE model IS NOT NULL');
        $this->addSql('UPDATE trial SET fitted_id = id WHERE model IS NOT NULL');
        $this->addSql('ALTER TABLE trial DROP COLUMN model');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_TRIAL_FITTED ON trial (fitted_id)');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
