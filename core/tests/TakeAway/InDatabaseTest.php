<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\TakeAway;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\TakeAway\Dialect;
use Dokimos\Core\TakeAway\Form;
use Dokimos\Core\TakeAway\InDatabase;
use Dokimos\Core\TakeAway\OnnxReader;
use Dokimos\Core\TakeAway\TakeAway;
use Dokimos\Core\Tests\PostgresCluster;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A model scores a table where it lies: in PostgreSQL, and in SQLite by the same statements. */
final class InDatabaseTest extends TestCase
{
    /** @return iterable<string, array{Dialect}> */
    public static function dialects(): iterable
    {
        foreach (Dialect::cases() as $dialect) {
            yield $dialect->value => [$dialect];
        }
    }

    private static function table(int $rows): Table
    {
        mt_srand(3);
        $age = $area = $sent = $day = [];
        for ($i = 0; $i < $rows; ++$i) {
            $age[] = 0 === $i % 9 ? \NAN : mt_rand(0, 400) / 10;
            $area[] = 0 === $i % 17 ? -1 : mt_rand(0, 2);
            $sent[] = mt_rand(0, 1);
            $day[] = 0 === $i % 13 ? DateColumn::MISSING : 86400 * mt_rand(19000, 19700);
        }

        return Table::of([
            'age' => new NumberColumn($age),
            'area' => new CodedColumn($area, ['north', "o'hill", 'south'], Kind::Category),
            'sent' => new CodedColumn($sent, ['yes', 'no'], Kind::YesNo),
            'day' => new DateColumn($day),
        ], $rows);
    }

    /** @param array<string, mixed> $settings */
    private static function model(string $learner, array $settings = []): ScoringModel
    {
        $table = self::table(400);
        $age = $table->number('age')->values;
        $y = array_map(static fn (float $a): float => (is_nan($a) ? 15 : $a) + mt_rand(-15, 15) > 22 ? 1.0 : 0.0, $age);

        return (new Trying(
            $table,
            $table->names(),
            $y,
            Preparation::fromArray([['step' => 'fill_missing', 'columns' => ['age'], 'mark' => true]]),
            Learners::make($learner, $settings),
        ))->whole('y', 'yes');
    }

    private static function open(Dialect $dialect): \PDO
    {
        if (Dialect::Sqlite === $dialect) {
            return new \PDO('sqlite::memory:');
        }
        $pdo = new \PDO(
            'pgsql:host=127.0.0.1;dbname=lists;port='.PostgresCluster::port(),
            PostgresCluster::WRITER,
            PostgresCluster::PASSWORD,
        );
        $pdo->exec('DROP TABLE IF EXISTS visits_of_model, scored_by_model');

        return $pdo;
    }

    private static function fill(\PDO $pdo, Dialect $dialect, int $rows): Table
    {
        $types = Dialect::Sqlite === $dialect
            ? 'age REAL, area TEXT, sent TEXT, day TEXT'
            : 'age float8, area varchar(20), sent boolean, day date';
        $pdo->exec("CREATE TABLE visits_of_model (id integer, $types, note text)");
        $insert = $pdo->prepare('INSERT INTO visits_of_model VALUES (?, ?, ?, ?, ?, ?)');
        $table = self::table($rows);
        for ($i = 0; $i < $rows; ++$i) {
            $age = $table->number('age')->values[$i];
            $insert->execute(
                [
                    $i,
                    is_nan($age) ? null : $age,
                    $table->column('area')->text($i),
                    $table->column('sent')->text($i),
                    $table->column('day')->text($i),
                    'x',
                ],
            );
        }

        return $table;
    }

    #[DataProvider('dialects')]
    public function testTheTableThereHoldsOurAnswers(Dialect $dialect): void
    {
        $pdo = self::open($dialect);
        $table = self::fill($pdo, $dialect, 900);
        $cases = [
            'boosting' => ['trees' => 60],
            'logistic' => [],
            'rules' => [],
            'naive-bayes' => ['numbers' => 'as they lie'],
            'bayes-network' => [],
            'neural-network' => ['epochs' => 3, 'bend' => 'tanh'],
            'forest' => ['trees' => 20],
        ];
        foreach ($cases as $learner => $settings) {
            $model = self::model($learner, $settings);
            // Of the forest the query is said to be too long: its trees become rows of two tables.
            $there = new InDatabase($pdo, $dialect, 'forest' === $learner ? 5000 : null);
            $done = $there->score($model, 'visits_of_model', ['id'], 'scored_by_model');
            self::assertSame(900, $done['rows']);
            self::assertTrue($done['proof']->holds());
            self::assertSame([300, $dialect->value], [$done['proof']->records, $done['proof']->by]);
            $wanted = $model->answers($model->select($table, $model->byName()));
            $answer = $pdo->query('SELECT id, chance FROM scored_by_model ORDER BY id');
            self::assertInstanceOf(\PDOStatement::class, $answer);
            foreach ($answer->fetchAll(\PDO::FETCH_NUM) as [$id, $chance]) {
                is_nan($wanted->first((int) $id)) ? self::assertNull($chance) : self::assertEqualsWithDelta(
                    $wanted->first((int) $id),
                    (float) $chance,
                    1e-9,
                );
            }
            $pdo->exec('DROP TABLE scored_by_model');
            // It is refused where something of ours is left.
            $pdo->exec('CREATE TEMPORARY TABLE dokimos_nodes (id integer)');
            $pdo->exec('DROP TABLE dokimos_nodes');
        }
        // A query serves as well as a table.
        $done = (new InDatabase($pdo, $dialect))->score(
            self::model('tree'),
            'SELECT * FROM visits_of_model WHERE id < 100',
            ['id', 'note'],
            'scored_by_model',
        );
        self::assertSame(100, $done['rows']);
    }

    #[DataProvider('dialects')]
    public function testNothingIsWrittenWhereSomethingIsWrong(Dialect $dialect): void
    {
        $pdo = self::open($dialect);
        self::fill($pdo, $dialect, 20);
        $pdo->exec('CREATE TABLE scored_by_model (mine integer)');
        $cases = [
            ['nothing_there', 'scored_anew', 'The database says'],
            ['visits_of_model', 'scored_by_model', 'already exists'],
            ['SELECT id, age FROM visits_of_model', 'scored_anew', 'has no column area, sent, day'],
            ['SELECT 1) s; DROP TABLE visits_of_model; SELECT (1', 'scored_anew', 'A query is one statement'],
            ['', 'scored_anew', 'Name the table'],
        ];
        foreach ($cases as [$from, $into, $says]) {
            try {
                (new InDatabase($pdo, $dialect))->score(self::model('boosting', ['trees' => 5]), $from, ['id'], $into);
                self::fail("$from went through.");
            } catch (CannotExpress $e) {
                self::assertStringContainsString($says, $e->getMessage(), $from);
            }
            self::assertFalse($pdo->inTransaction());
        }
        $left = $pdo->query('SELECT COUNT(*) FROM visits_of_model');
        self::assertInstanceOf(\PDOStatement::class, $left);
        self::assertSame(20, (int) $left->fetchColumn());
    }

    public function testTheFormForPostgreSqlIsProvenByPostgreSql(): void
    {
        $model = self::model('boosting', ['trees' => 40]);
        $real = $model->select(self::table(50), $model->byName());
        $away = new TakeAway(new OnnxReader(\dirname(__DIR__, 3).'/tools/onnx'), self::open(Dialect::PostgreSql));
        [$sql, $proof] = $away->of($model, Form::PostgreSql, $real);
        self::assertSame('PostgreSQL', $proof->by);
        self::assertStringContainsString('FROM my_records', $sql);
        self::assertGreaterThan(10, $proof->made['at a threshold or a step beside it']);
    }

    #[DataProvider('dialects')]
    public function testWhatIsTooLongForAQueryIsRowsOfTwoTables(Dialect $dialect): void
    {
        $model = self::model('boosting', ['trees' => 40]);
        $real = $model->select(self::table(50), $model->byName());
        $postgres = Dialect::PostgreSql === $dialect ? self::open($dialect) : null;
        $away = new TakeAway(new OnnxReader(\dirname(__DIR__, 3).'/tools/onnx'), $postgres, 4000);
        [$sql, $proof] = $away->of($model, Dialect::PostgreSql === $dialect ? Form::PostgreSql : Form::Sqlite, $real);
        self::assertTrue($proof->holds());
        self::assertStringContainsString('CREATE TEMPORARY TABLE dokimos_nodes', $sql);
        self::assertStringContainsString('WITH RECURSIVE walk', $sql);
        self::assertStringContainsString('Its trees are rows of two tables', $sql);
    }
}
