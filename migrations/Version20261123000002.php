<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Invitations by link. */
final class Version20261123000002 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Invitations by link';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE account_invitation (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, expires_at DATETIME NOT NULL, used BOOLEAN NOT NULL, code_hash VARCHAR(64) NOT NULL, by_id INTEGER NOT NULL, CONSTRAINT FK_D869306AAE72004 FOREIGN KEY (by_id) REFERENCES account_user (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE UNIQUE INDEX UNIQ_D869306E7530879 ON account_invitation (code_hash)');
        $this->addSql('CREATE INDEX IDX_D869306AAE72004 ON account_invitation (by_id)');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
