<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A scored list keeps why its records have their answers. */
final class Version20261129000019 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'A scored list keeps why its records have their answers';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE scoring ADD COLUMN because CLOB DEFAULT NULL');
    }
}
