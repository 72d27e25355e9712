<?php

declare(strict_types=1);

namespace App\Migrations;

use App\Trial\TrialLine;
use Doctrine\DBAL\ParameterType;
use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Figures and answers of a trial stand apart from it; the trial keeps the few values that lists show. */
final class Version20261129000013 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Figures and answers of a trial stand apart from it';
    }

    public function up(Schema $schema): void
    {
        foreach ([
            'CREATE TABLE trial_result (id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, sealed_figures CLOB DEFAULT NULL, answers BLOB NOT NULL, repeats INTEGER NOT NULL, width INTEGER NOT NULL, figures CLOB NOT NULL)',
            'ALTER TABLE trial ADD COLUMN line CLOB DEFAULT NULL',
            'ALTER TABLE trial ADD COLUMN opening INTEGER DEFAULT NULL',
            'ALTER TABLE trial ADD COLUMN result_id INTEGER DEFAULT NULL REFERENCES trial_result (id) ON DELETE SET NULL',
        ] as $sql) {
            $this->connection->executeStatement($sql);
        }
        // One trial at a time: answers of many would not fit into memory together.
        foreach ($this->connection->fetchFirstColumn("SELECT id FROM trial WHERE state = 'done'") as $id) {
            $row = $this->connection->fetchAssociative('SELECT t.figures, t.chances, t.sealed_figures, s.task FROM trial t JOIN study s ON s.id = t.study_id WHERE t.id = ?', [$id]) ?: [];
            $text = static fn (string $key): string => \is_scalar($row[$key] ?? null) ? (string) $row[$key] : '';
            $figures = json_decode($text('figures'), true);
            $figures = \is_array($figures) ? $figures : [];
            $repeats = \is_int($figures['answeredRepeats'] ?? null) ? $figures['answeredRepeats'] : 1;
            $classes = \is_array($figures['classes'] ?? null) ? \count($figures['classes']) : 1;
            $line = TrialLine::ofFigures($figures, $text('task'));
            $sealed = json_decode($text('sealed_figures'), true);
            $this->connection->insert('trial_result', [
                'figures' => $text('figures'),
                'sealed_figures' => '' === $text('sealed_figures') ? null : $text('sealed_figures'),
                'answers' => (string) gzdeflate((string) base64_decode($text('chances'), true), 1),
                'repeats' => $repeats,
                'width' => $classes > 2 ? $classes : 1,
            ], ['answers' => ParameterType::LARGE_OBJECT]);
            $opening = \is_array($sealed) ? (\is_int($sealed['opening'] ?? null) ? $sealed['opening'] : 1) : null;
            $this->connection->update('trial', ['result_id' => $this->connection->lastInsertId(), 'line' => json_encode($line->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), 'opening' => $opening], ['id' => $id]);
        }
        foreach (['figures', 'chances', 'sealed_figures'] as $column) {
            $this->connection->executeStatement('ALTER TABLE trial DROP COLUMN '.$column);
        }
        $this->connection->executeStatement('CREATE UNIQUE INDEX UNIQ_74A25E337A7B643 ON trial (result_id)');
        $this->addSql('SELECT 1');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
