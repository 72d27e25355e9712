<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A trial may use some of the columns, be calibrated, and be the best of a search; the figure that ranks can be chosen. */
final class Version20261129000017 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'A trial may use some of the columns, be calibrated, and be the best of a search; the figure that ranks can be chosen';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE trial ADD COLUMN choice CLOB DEFAULT NULL');
        $this->addSql("ALTER TABLE trial ADD COLUMN calibration VARCHAR(30) DEFAULT 'as they come' NOT NULL");
        $this->addSql('ALTER TABLE trial ADD COLUMN chosen CLOB DEFAULT NULL');
        $this->addSql('ALTER TABLE question ADD COLUMN figure VARCHAR(40) DEFAULT NULL');
    }
}
