<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A trial may learn from a part of the rows. */
final class Version20261129000014 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'A trial may learn from a part of the rows';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE trial ADD COLUMN part INTEGER DEFAULT NULL');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
