<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** "Every column with missing cells" is a condition now, not a name. */
final class Version20261123000007 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Columns of steps chosen by condition';
    }

    public function up(Schema $schema): void
    {
        foreach (['variant', 'trial'] as $table) {
            $this->addSql(\sprintf('UPDATE %s SET steps = replace(steps, \'"columns":["*"]\', \'"columns":[],"choose":{"kinds":[],"missing":true}\')', $table));
        }
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
