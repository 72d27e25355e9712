<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** How tables were made from others. */
final class Version20261123000005 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'How tables were made from others';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE combination (recipe CLOB NOT NULL, table_id INTEGER NOT NULL, source_id INTEGER NOT NULL, other_id INTEGER DEFAULT NULL, PRIMARY KEY (table_id), CONSTRAINT FK_COMBINATION_TABLE FOREIGN KEY (table_id) REFERENCES data_table (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE, CONSTRAINT FK_COMBINATION_SOURCE FOREIGN KEY (source_id) REFERENCES data_table (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE, CONSTRAINT FK_COMBINATION_OTHER FOREIGN KEY (other_id) REFERENCES data_table (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE INDEX IDX_COMBINATION_SOURCE ON combination (source_id)');
        $this->addSql('CREATE INDEX IDX_COMBINATION_OTHER ON combination (other_id)');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
