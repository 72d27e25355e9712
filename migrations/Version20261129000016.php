<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** How a table was made from others is called a combination, everywhere. */
final class Version20261129000016 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'How a table was made from others is called a combination, everywhere';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE combination RENAME COLUMN recipe TO combination');
        $this->addSql('UPDATE combination SET combination = json_set(json_remove(combination, \'$.recipe\'), \'$.kind\', json_extract(combination, \'$.recipe\'))');
    }
}
