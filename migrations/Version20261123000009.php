<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A study may predict a number or one of several classes. */
final class Version20261123000009 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'A study may predict a number or one of several classes';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE study ADD COLUMN task VARCHAR(20) DEFAULT 'two classes' NOT NULL");
        $this->addSql('ALTER TABLE study ADD COLUMN classes CLOB DEFAULT NULL');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
