<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Explain\TreeText;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Random;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

final class TreeTextTest extends TestCase
{
    private static function table(): Table
    {
        $random = Random::stream(6, 'tree text');
        $lines = ['days,"it\'s a ""place""",since,y'];
        for ($i = 0; $i < 900; ++$i) {
            $days = $random->getInt(0, 40);
            $place = ["O'Dell", 'B, C', 'D"E', 'F'][$random->getInt(0, 3)];
            $since = gmdate('Y-m-d', 86400 * (18000 + $random->getInt(0, 900)));
            $y = $days / 8 + ("O'Dell" === $place ? 4 : 0) + ($since > '2020-06-01' ? 3 : 0) + $random->getInt(0, 100) / 50;
            $lines[] = \sprintf(
                '%s,"%s",%s,%s',
                0 === $i % 9 ? '' : $days,
                0 === $i % 13 ? '' : str_replace('"', '""', $place),
                $since,
                $y,
            );
        }

        return Files::ofText(implode("\n", $lines)."\n", ['it\'s a "place"' => Kind::Category]);
    }

    /** A database that knows nothing of trees gives each record the tree's answer. */
    public function testTheSqlGivesWhatTheTreeGives(): void
    {
        $table = self::table();
        $names = array_values(array_diff($table->names(), ['y']));
        $y = $table->number('y')->values;
        $tree = Learners::make('tree', ['depth' => 5, 'leaf' => 20])->fit(new Task($table, $names, $y, range(0, 899), null, null));
        self::assertInstanceOf(TreeModel::class, $tree);
        $reading = TreeReading::of($tree);
        self::assertGreaterThan(8, \count($reading->leaves));
        $sql = TreeText::of($tree, $reading, TreeText::SQL, 'y', false);
        $pdo = new \PDO('sqlite::memory:');
        $quoted = array_map(
            static fn (string $n): string => '"'.str_replace('"', '""', $n).'" '.($table->column($n) instanceof NumberColumn ? 'REAL' : 'TEXT'),
            $names,
        );
        $pdo->exec('CREATE TABLE t (n INTEGER, '.implode(', ', $quoted).')');
        $insert = $pdo->prepare('INSERT INTO t VALUES ('.implode(', ', array_fill(0, \count($names) + 1, '?')).')');
        foreach (range(0, 899) as $row) {
            $insert->execute([$row, ...array_map(static function (string $n) use ($table, $row): float|string|null {
                $text = $table->column($n)->text($row);

                return null !== $text && is_numeric($text) ? (float) $text : $text;
            }, $names)]);
        }
        // SQLite keeps days as text and has no word for them.
        $asked = $pdo->query('SELECT '.str_replace('DATE ', '', $sql).' FROM t ORDER BY n');
        self::assertNotFalse($asked);
        $answers = $asked->fetchAll(\PDO::FETCH_COLUMN);
        self::assertEqualsWithDelta($tree->predict($table), array_map(floatval(...), $answers), 1e-12);
    }

    public function testSentencesAndATable(): void
    {
        $table = self::table();
        $names = array_values(array_diff($table->names(), ['y']));
        $tree = Learners::make('tree', ['depth' => 3, 'leaf' => 40])->fit(new Task(
            $table,
            $names,
            $table->number('y')->values,
            range(0, 899),
            null,
            null,
        ));
        self::assertInstanceOf(TreeModel::class, $tree);
        $reading = TreeReading::of($tree);
        $text = TreeText::of($tree, $reading, TreeText::TEXT, 'y', false);
        self::assertSame(\count($reading->leaves), substr_count($text, "\n"));
        self::assertStringContainsString($reading->leaves[0]->says, $text);
        $csv = explode("\r\n", trim(TreeText::of($tree, $reading, TreeText::CSV, 'y', false)));
        self::assertCount(1 + \count($reading->leaves), $csv);
        $cells = str_getcsv($csv[1], escape: '');
        self::assertSame([$reading->leaves[0]->says, $reading->leaves[0]->verdict], [$cells[1], $cells[11]]);
        $sound = \count(array_filter($reading->leaves, static fn ($l): bool => 'Sound' === $l->verdict));
        self::assertSame($sound, substr_count(TreeText::of($tree, $reading, TreeText::TEXT, 'y', true), "\n"));
    }
}
