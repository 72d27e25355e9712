<?php

declare(strict_types=1);

namespace App\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Databases on servers as sources; orders of rows in parts. */
final class Version20261123000006 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Databases on servers as sources; orders of rows in parts';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE database_connection (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, created_at DATETIME NOT NULL, host VARCHAR(120) NOT NULL, database_name VARCHAR(120) NOT NULL, login VARCHAR(120) NOT NULL, sealed CLOB NOT NULL, user_id INTEGER NOT NULL, CONSTRAINT FK_DATABASE_CONNECTION_USER FOREIGN KEY (user_id) REFERENCES account_user (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE)');
        $this->addSql('CREATE INDEX IDX_DATABASE_CONNECTION_USER ON database_connection (user_id)');
        $this->addSql('ALTER TABLE upload ADD COLUMN connection_id INTEGER DEFAULT NULL REFERENCES database_connection (id) ON DELETE CASCADE NOT DEFERRABLE INITIALLY IMMEDIATE');
        // Orders of rows are kept in another form; each is made anew when it is asked for.
        $this->addSql('DELETE FROM sort_order');
        $this->addSql('CREATE INDEX IDX_UPLOAD_CONNECTION ON upload (connection_id)');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
