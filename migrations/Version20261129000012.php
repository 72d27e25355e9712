<?php

declare(strict_types=1);

namespace App\Migrations;

use App\Storage\CellStore;
use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;
use Dokimos\Core\Decide\ScoredColumns;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Task\Task;

/** Scored records become a table in chunks: what was kept in one value is written frame by frame. */
final class Version20261129000012 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Scored records become a table in chunks';
    }

    public function up(Schema $schema): void
    {
        $this->connection->executeStatement('ALTER TABLE scoring ADD COLUMN answers_id INTEGER DEFAULT NULL REFERENCES data_table (id) ON DELETE SET NULL');
        $this->connection->executeStatement("ALTER TABLE scoring ADD COLUMN summary CLOB DEFAULT '[]' NOT NULL");
        $this->connection->executeStatement("ALTER TABLE scoring ADD COLUMN about CLOB DEFAULT '{}' NOT NULL");
        foreach ($this->connection->fetchAllAssociative('SELECT s.id, s.study_id, s.result, s.state, t.name, t.row_count, o.target, o.event, o.task, o.classes FROM scoring s JOIN data_table t ON t.id = s.table_id JOIN study o ON o.id = s.study_id') as $row) {
            $this->rewrite($row);
        }
        $this->connection->executeStatement('CREATE UNIQUE INDEX UNIQ_scoring_answers ON scoring (answers_id)');
        $this->connection->executeStatement('ALTER TABLE scoring DROP COLUMN result');
        $this->addSql('SELECT 1');
    }

    /** @param array<string, mixed> $row */
    private function rewrite(array $row): void
    {
        $text = static fn (string $key): string => \is_scalar($row[$key] ?? null) ? (string) $row[$key] : '';
        /** @var list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}> $lines */
        $lines = '' === $text('result') ? [] : json_decode((string) gzinflate((string) base64_decode($text('result'), true)), true, 8, \JSON_THROW_ON_ERROR);
        // What was predicted is told by the lines: the study may have been asked something else since.
        $known = array_values(array_filter($lines, static fn (array $l): bool => null === $l['why']))[0] ?? $lines[0] ?? [];
        $classes = json_decode($text('classes'), true);
        $classes = \is_array($classes) ? array_values(array_filter($classes, is_string(...))) : [];
        if (\array_key_exists('class', $known)) {
            $classes = \count($known['shares'] ?? []) === \count($classes) ? $classes : array_values(array_unique(array_filter(array_column($lines, 'class'), is_string(...))));
        }
        $task = match (true) {
            \array_key_exists('number', $known) => Task::NUMBER,
            \array_key_exists('class', $known) => Task::MORE,
            [] === $known => $text('task'),
            default => Task::TWO,
        };
        $about = ['target' => $text('target'), 'event' => $text('event'), 'task' => $task, 'classes' => Task::MORE === $task ? $classes : []];
        $form = ScoredColumns::of($about['target'], $task, $about['classes']);
        $now = gmdate('Y-m-d H:i:s');
        $this->connection->insert('data_table', ['study_id' => $row['study_id'], 'name' => mb_substr($text('name'), 0, 110).', scored', 'file_name' => '', 'bytes' => 0, 'dialect' => '[]', 'edition' => 1, 'state' => 'scored', 'row_count' => $row['row_count'], 'fingerprint' => '', 'repairs' => '[]', 'imported_at' => $now]);
        $table = (int) $this->connection->lastInsertId();
        $position = 0;
        foreach ($form->columns as $name => [$kind, $levels]) {
            $this->connection->insert('table_column', ['table_id' => $table, 'position' => $position++, 'name' => mb_substr((string) $name, 0, 255), 'kind' => $kind->value, 'version' => 1, 'column_use' => 'input', 'known' => 1, 'levels' => json_encode($levels, \JSON_THROW_ON_ERROR), 'profile' => '[]', 'misfits' => '[]', 'misfit_count' => 0]);
        }
        $store = new CellStore($this->connection);
        foreach (array_chunk($lines, FrameCodec::ROWS * CellStore::FRAMES) as $chunk => $own) {
            $frames = [];
            foreach (array_chunk($own, FrameCodec::ROWS) as $some) {
                foreach ($form->frames($some) as $at => $bytes) {
                    $frames[$at][] = [$bytes, \count($some)];
                }
            }
            $store->write($table, array_map(static fn (array $f, int $at): array => ['position' => $at, 'chunk' => $chunk, 'frames' => $f], array_values($frames), array_keys($frames)));
        }
        $this->connection->update('scoring', ['answers_id' => $table, 'about' => json_encode($about, \JSON_THROW_ON_ERROR), 'summary' => json_encode(self::summary($lines, $task), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION | \JSON_FORCE_OBJECT)], ['id' => $row['id']]);
    }

    /**
     * @param list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}> $lines
     *
     * @return array<string, mixed>
     */
    private static function summary(array $lines, string $task): array
    {
        $numbers = array_values(array_filter(array_map(static fn (array $l): ?float => isset($l['number']) ? (float) $l['number'] : null, $lines), is_float(...)));
        [$lowest, $highest] = [] === $numbers ? [0.0, 1.0] : [min($numbers), max($numbers)];
        $histogram = array_fill(0, 40, 0);
        $expected = 0.0;
        foreach ($lines as $line) {
            $value = Task::NUMBER === $task ? (isset($line['number']) ? ($highest > $lowest ? ($line['number'] - $lowest) / ($highest - $lowest) : 0.0) : null) : $line['chance'];
            if (null !== $value) {
                ++$histogram[min(39, max(0, (int) floor(40 * $value)))];
                $expected += $line['chance'] ?? 0.0;
            }
        }

        return ['histogram' => $histogram, 'expected' => $expected, 'classes' => array_count_values(array_filter(array_column($lines, 'class'), is_string(...))), 'lowest' => [] === $numbers ? null : $lowest, 'highest' => [] === $numbers ? null : $highest, 'mean' => [] === $numbers ? null : array_sum($numbers) / \count($numbers)];
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
