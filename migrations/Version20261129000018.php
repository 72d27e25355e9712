<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A trial has a note, may be hidden in the Standings, and may be fitted once more on all records for use. */
final class Version20261129000018 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'A trial has a note, may be hidden in the Standings, and may be fitted once more on all records for use';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE trial ADD COLUMN note VARCHAR(400) DEFAULT '' NOT NULL");
        $this->addSql('ALTER TABLE trial ADD COLUMN hidden BOOLEAN DEFAULT 0 NOT NULL');
        $this->addSql('ALTER TABLE trial ADD COLUMN handed_rows INTEGER DEFAULT NULL');
        $this->addSql('ALTER TABLE trial ADD COLUMN handed_id INTEGER DEFAULT NULL REFERENCES fitted_model (id) ON DELETE SET NULL NOT DEFERRABLE INITIALLY IMMEDIATE');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_TRIAL_HANDED ON trial (handed_id)');
        $this->addSql('ALTER TABLE scoring ADD COLUMN handed BOOLEAN DEFAULT 0 NOT NULL');
    }
}
