<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Staying signed in ends with signing out; a repeated request is answered only while access is what it was. */
final class Version20261129000011 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Staying signed in ends with signing out; a repeated request is answered only while access is what it was';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE account_user ADD COLUMN stays INTEGER DEFAULT 0 NOT NULL');
        $this->addSql('ALTER TABLE job_piece ADD COLUMN waiting_since DOUBLE PRECISION DEFAULT NULL');
        $this->addSql("ALTER TABLE idempotency ADD COLUMN members TEXT DEFAULT '[]' NOT NULL");
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
