<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\RulesText;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Explain\TreeText;
use Dokimos\Core\Learn\ShowsRules;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Random;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
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
        $answers = self::asked($table, $names, $sql);
        self::assertEqualsWithDelta($tree->predict($table), array_map(floatval(...), $answers), 1e-12);
    }

    /**
     * @param list<string> $names
     *
     * @return list<mixed> what a database answers, record by record
     */
    private static function asked(Table $table, array $names, string $sql): array
    {
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

        return array_values($asked->fetchAll(\PDO::FETCH_COLUMN));
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

    /** @return iterable<string, array{list<string>, \Closure(float): float}> classes, the outcome of a number */
    public static function outcomes(): iterable
    {
        yield 'an event' => [['no', "it's late"], static fn (float $y): float => (float) ($y > 5.5)];
        yield 'several classes' => [["it's a", 'b', 'c'], static fn (float $y): float => $y < 3.5 ? 0.0 : ($y < 6.0 ? 1.0 : 2.0)];
    }

    /**
     * The first rule that a record meets answers, in a database too.
     *
     * @param list<string>           $classes
     * @param \Closure(float): float $of
     */
    #[DataProvider('outcomes')]
    public function testRulesAreTakenElsewhereInTheOrderTheyAnswer(array $classes, \Closure $of): void
    {
        $table = self::table();
        $names = array_values(array_diff($table->names(), ['y']));
        $y = array_map($of, $table->number('y')->values);
        $model = Learners::make('rules', ['leaf' => 15])->fit(new Task($table, $names, $y, range(0, 899), null, $classes));
        self::assertInstanceOf(ShowsRules::class, $model);
        self::assertInstanceOf(TellsClasses::class, $model);
        $rules = $model->shownRules();
        self::assertGreaterThan(2, \count($rules));
        $event = 2 === \count($classes) ? $classes[1] : '';
        $answers = self::asked($table, $names, RulesText::of($rules, TreeText::SQL, 'y "now"', $event, true));
        if ('' !== $event) {
            self::assertEqualsWithDelta($model->predict($table), array_map(floatval(...), $answers), 1e-12);
        } else {
            $shares = $model->shares($table, range(0, 899));
            foreach ($answers as $row => $named) {
                $own = array_column($shares, $row);
                self::assertSame($classes[(int) array_search(max([0.0, ...$own]), $own, true)], $named, 'record '.$row);
            }
        }
        $csv = explode("\r\n", trim(RulesText::of($rules, TreeText::CSV, 'y', $event, false)));
        self::assertCount(1 + \count($rules), $csv);
        $cells = str_getcsv($csv[1], escape: '');
        self::assertSame(['1', $rules[0]->says, $rules[0]->sql, $rules[0]->class], \array_slice($cells, 0, 4));
        $text = RulesText::of($rules, TreeText::TEXT, 'y', $event, false);
        self::assertSame(\count($rules), substr_count($text, "\n"));
        self::assertStringContainsString('1. '.$rules[0]->says.' → '.$rules[0]->class.':', $text);
        $sound = \count(array_filter(\array_slice($csv, 1), static fn (string $line): bool => str_ends_with($line, 'Sound')));
        self::assertSame($sound, substr_count(RulesText::of($rules, TreeText::TEXT, 'y', $event, true), "\n"));
    }
}
