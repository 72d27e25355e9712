<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\TakeAway;

use Dokimos\Core\Blend\Mixing;
use Dokimos\Core\Decide\Blended;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\TakeAway\CardReader;
use Dokimos\Core\TakeAway\Dialect;
use Dokimos\Core\TakeAway\Form;
use Dokimos\Core\TakeAway\Onnx;
use Dokimos\Core\TakeAway\OnnxReader;
use Dokimos\Core\TakeAway\Program;
use Dokimos\Core\TakeAway\Proof;
use Dokimos\Core\TakeAway\Reader;
use Dokimos\Core\TakeAway\RuleCard;
use Dokimos\Core\TakeAway\Sample;
use Dokimos\Core\TakeAway\Sql;
use Dokimos\Core\TakeAway\TakeAway;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A model answers the same where it is taken: read from its JSON, and run by a database as one statement. */
final class ProgramTest extends TestCase
{
    private const ROWS = 400;
    private static ?OnnxReader $runtime = null;

    public static function tearDownAfterClass(): void
    {
        self::$runtime = null;
    }

    private const STEPS = [
        'none' => [],
        'fills and bins' => [
            ['step' => 'fill_missing', 'columns' => ['age', 'area'], 'mark' => true],
            ['step' => 'bins', 'columns' => ['cost']],
        ],
        'pairs, levels and limits' => [
            ['step' => 'group_rare', 'columns' => ['area'], 'share' => 0.2],
            ['step' => 'interact', 'column' => 'area', 'how' => 'pairs of values', 'other' => 'sent'],
            ['step' => 'outliers', 'columns' => ['cost'], 'rule' => 'own limits', 'low' => 20, 'high' => 80],
            ['step' => 'scale', 'columns' => ['cost']],
            ['step' => 'drop_rows', 'columns' => ['age']],
        ],
        'codes, marks and names' => [
            ['step' => 'set_aside', 'columns' => ['day']],
            ['step' => 'rename', 'column' => 'cost', 'to' => 'price'],
            ['step' => 'encode', 'columns' => ['area'], 'method' => 'frequency'],
            ['step' => 'encode', 'columns' => ['sent']],
            ['step' => 'scale', 'columns' => ['price'], 'method' => 'logarithm'],
            ['step' => 'fill_missing', 'columns' => ['age'], 'method' => 'median by group', 'group' => 'sent is yes'],
        ],
        'dates, recoded' => [
            [
                'step' => 'date_parts',
                'column' => 'day',
                'parts' => ['year', 'quarter', 'month', 'week', 'day', 'weekday', 'weekend', 'hour', 'day of year', 'days since 1970'],
            ],
            ['step' => 'recode', 'column' => 'area', 'pairs' => [['north', 'up'], ["west's end", 'up'], ['rare', '']]],
            ['step' => 'recode', 'column' => 'age', 'pairs' => [['0', ''], ['1', '2'], ['40', '39']]],
            [
                'step' => 'keep_rows',
                'mode' => 'kept',
                'where' => [['cost', 'is over', '3'], ['area', 'is not', 'south'], ['age', 'is present']],
                'any' => true,
            ],
            ['step' => 'keep_rows', 'mode' => 'taken out', 'where' => [['cost', 'is between', '50', '52']]],
        ],
        'formulas and components' => [
            [
                'step' => 'formula',
                'name' => 'a',
                'formula' => 'age / (cost - cost) + max(age, 3 * cost) - min(abs(age - 20), ceil(cost) / 7)',
            ],
            ['step' => 'formula', 'name' => 'b', 'formula' => 'missing(age) or (cost > 40 and not sent)'],
            ['step' => 'formula', 'name' => 'c', 'formula' => 'area in ["north", "south"] ? "n or s" : (age >= 20 ? "old" : null)'],
            ['step' => 'formula', 'name' => 'd', 'formula' => 'day > "2022-09-01" ? ln(cost + 1) : exp(-age / 10) * sqrt(cost)'],
            [
                'step' => 'formula',
                'name' => 'e',
                'formula' => 'first_known(age, 3) == 3 ? weekday(day) : year(day) * 12 + month(day) + day(day) / 100',
            ],
            ['step' => 'formula', 'name' => 'f', 'formula' => 'between(age, 10, 20) xor area != "north"'],
            ['step' => 'fill_missing', 'columns' => ['age', 'cost']],
            ['step' => 'components', 'columns' => ['age', 'cost'], 'keep' => false],
        ],
    ];

    /** @return iterable<string, array{string, string, array<string, mixed>, string}> */
    public static function models(): iterable
    {
        $turn = 0;
        $quick = [
            'forest' => ['trees' => 12],
            'boosting' => ['trees' => 30],
            'additive' => ['bags' => 2, 'pairs' => 2],
            'neural-network' => ['epochs' => 6],
        ];
        foreach ([
            'logistic', 'multinomial', 'linear', 'tree', 'forest', 'boosting', 'additive', 'baseline', 'rules', 'naive-bayes',
            'bayes-network', 'neural-network',
        ] as $learner) {
            foreach (Learners::about($learner)->tasks as $task) {
                // Each with every eighth preparation, by turns: together they meet all of them.
                foreach (array_keys(self::STEPS) as $i => $steps) {
                    if ('none' === $steps || ($turn + $i) % 8 > 0) {
                        continue;
                    }
                    yield "$learner, $task, $steps" => [$learner, $task, $quick[$learner] ?? [], $steps];
                }
                ++$turn;
                yield "$learner, $task, none" => [$learner, $task, $quick[$learner] ?? [], 'none'];
            }
        }
        yield 'bent, marked' => ['logistic', Task::TWO, ['bent' => 'all', 'missing' => 'fill and mark'], 'none'];
        yield 'means of the outcome' => ['linear', Task::NUMBER, ['coding' => 'target mean', 'missing' => 'fill and mark'], 'none'];
        yield 'steps in order' => ['logistic', Task::TWO, ['coding' => 'ordered', 'rare' => 60], 'none'];
        yield 'rare classes counted more' => ['boosting', Task::TWO, ['trees' => 20, 'balance' => 'weighted up'], 'none'];
        yield 'a forest of balanced classes' => ['forest', Task::MORE, ['trees' => 8, 'balance' => 'weighted up'], 'none'];
        foreach (['as they lie', 'in bins by target'] as $numbers) {
            yield 'numbers '.$numbers => ['naive-bayes', Task::MORE, ['numbers' => $numbers], 'none'];
        }
        yield 'a network of two layers that bends' => [
            'neural-network',
            Task::MORE,
            ['layers' => '6, 5', 'bend' => 'tanh', 'epochs' => 5],
            'none',
        ];
        yield 'a network with an embedding' => [
            'neural-network',
            Task::TWO,
            ['layers' => '5', 'each' => 2, 'epochs' => 5],
            'fills and bins',
        ];
        yield 'counts' => ['boosting', Task::NUMBER, ['trees' => 20, 'loss' => 'Poisson'], 'none'];
    }

    private static function records(int $rows, bool $new): Table
    {
        mt_srand($new ? 8 : 7);
        $age = $cost = $area = $sent = $day = [];
        for ($i = 0; $i < $rows; ++$i) {
            $age[] = 0 === $i % 9 ? \NAN : (float) mt_rand(0, 40);
            $cost[] = 0 === $i % 31 ? \NAN : mt_rand(0, 10000) / 100;
            $area[] = 0 === $i % 17 ? -1 : mt_rand(0, $new ? 4 : 3);
            $sent[] = 0 === $i % 23 ? -1 : mt_rand(0, 1);
            $day[] = 0 === $i % 13 ? DateColumn::MISSING : 86400 * mt_rand(19000, 19700);
        }

        return Table::of([
            'age' => new NumberColumn($age),
            'cost' => new NumberColumn($cost),
            'area' => new CodedColumn($area, ['north', "west's end", 'south', 'rare', 'never seen'], Kind::Category),
            'sent' => new CodedColumn($sent, ['yes', 'no'], Kind::YesNo),
            'day' => new DateColumn($day),
        ], $rows);
    }

    /** @param array<string, mixed> $settings */
    private static function model(string $learner, string $task, array $settings, string $steps): ScoringModel
    {
        $table = self::records(self::ROWS, false);
        $y = self::outcome($table, $task);

        return (new Trying(
            $table,
            $table->names(),
            $y,
            Preparation::fromArray(self::STEPS[$steps]),
            Learners::make($learner, $settings),
            Task::TWO === $task ? ['no', 'yes'] : (Task::MORE === $task ? ['a', 'b', 'c'] : null),
        ))->whole('y', 'yes');
    }

    /** @return list<float> */
    private static function outcome(Table $table, string $task): array
    {
        $y = [];
        $age = $table->number('age')->values;
        $area = $table->column('area');
        for ($row = 0; $row < self::ROWS; ++$row) {
            $pull = (is_nan($age[$row]) ? 12 : $age[$row]) / 10 - ('north' === $area->text($row) ? 1.5 : 0.0) + mt_rand(-100, 100) / 60;
            $y[] = match ($task) {
                Task::TWO => $pull > 1.6 ? 1.0 : 0.0,
                Task::MORE => $pull < 1 ? 0.0 : ($pull < 2.2 ? 1.0 : 2.0),
                default => max(0.0, round(4 + $pull)),
            };
        }

        return $y;
    }

    /** @return iterable<string, array{string, list<array{string, string}>, string}> */
    public static function blends(): iterable
    {
        $members = [['logistic', 'none'], ['tree', 'fills and bins'], ['naive-bayes', 'dates, recoded']];
        foreach (Mixing::WAYS as $how) {
            yield $how => [Task::TWO, $members, $how];
        }
        yield 'several classes' => [Task::MORE, [['multinomial', 'none'], ['boosting', 'codes, marks and names']], Mixing::WEIGHTS];
        yield 'a number' => [
            Task::NUMBER,
            [['linear', 'none'], ['tree', 'pairs, levels and limits'], ['boosting', 'none']],
            Mixing::WEIGHTS,
        ];
    }

    /** @param list<array{string, string}> $of */
    #[DataProvider('blends')]
    public function testABlendAnswersTheSameEverywhere(string $task, array $of, string $how): void
    {
        $quick = ['boosting' => ['trees' => 10]];
        $models = array_map(static fn (array $m): ScoringModel => self::model($m[0], $task, $quick[$m[0]] ?? [], $m[1]), $of);
        self::assertNotSame([], $models);
        $table = self::records(self::ROWS, false);
        $said = array_map(static fn (ScoringModel $m): Answers => $m->answers($m->select($table, $m->byName())), $models);
        $classes = Task::TWO === $task ? ['no', 'yes'] : (Task::MORE === $task ? ['a', 'b', 'c'] : null);
        $blended = new Blended(
            $models,
            array_map(static fn (int $k): array => ['trial' => $k, 'name' => 'one'], array_keys($models)),
            Mixing::fit($how, $said, range(0, self::ROWS - 1), self::outcome($table, $task), null, $classes),
            $classes ?? [],
            [],
        );
        $prepared = Preparation::fromArray([])->fit($table, range(0, self::ROWS - 1));
        $this->same(ScoringModel::trained('y', 'yes', $table, $prepared, $blended, 0.4, $task));
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('models')]
    public function testItAnswersTheSameEverywhere(string $learner, string $task, array $settings, string $steps): void
    {
        $this->same(self::model($learner, $task, $settings, $steps));
    }

    private function same(ScoringModel $model): void
    {
        $new = self::records(120, true);
        $wanted = $model->answers($model->select($new, $model->byName()));
        $program = Program::of($model);

        $read = new Reader(
            (array) json_decode(
                json_encode($program, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION),
                true,
                4096,
                \JSON_THROW_ON_ERROR,
            ),
        );
        $sqlite = self::database($new);
        $answer = $sqlite->query((new Sql($program, Dialect::Sqlite, ['place']))->select('"new"'));
        self::assertInstanceOf(\PDOStatement::class, $answer);
        $found = $answer->fetchAll(\PDO::FETCH_NUM);
        self::assertCount(120, $found);
        $onnx = [] === $program->inputs ? null : self::byRuntime(Onnx::of($program), $program, $new);
        for ($row = 0; $row < 120; ++$row) {
            $record = [];
            foreach ($new->columns() as $name => $column) {
                $record[$name] = match (true) {
                    $column instanceof NumberColumn => $column->values[$row],
                    $column instanceof DateColumn => $column->isMissing($row) ? null : $column->seconds[$row] / DateColumn::DAY,
                    default => $column->text($row),
                };
            }
            $told = $read->answers($record);
            $said = \array_slice($found[$row], 1);
            self::assertSame($row, (int) $found[$row][0]);
            foreach ($wanted->of($row) as $k => $value) {
                $ran = null === $onnx ? $value : array_values($onnx)[$k][$row];
                if (is_nan($value)) {
                    self::assertNull($ran);
                    self::assertNull($told[$k]);
                    self::assertNull($said[$k]);
                } else {
                    self::assertEqualsWithDelta($value, $told[$k], 1e-9 * max(1.0, abs($value)), "JSON, row $row");
                    self::assertEqualsWithDelta($value, $said[$k], 1e-9 * max(1.0, abs($value)), "SQL, row $row");
                    self::assertEqualsWithDelta($value, $ran, 1e-5 * max(1.0, abs($value)), "ONNX, row $row");
                }
            }
        }
    }

    /** @return array<string, list<?float>> what an independent runtime answers */
    private static function byRuntime(string $model, Program $program, Table $records): array
    {
        self::$runtime ??= new OnnxReader(\dirname(__DIR__, 3).'/tools/onnx');
        self::assertTrue(self::$runtime->isThere(), 'make install fetches the runtime');
        $inputs = [];
        foreach ($program->inputs as $name => $kind) {
            $column = $records->column((string) $name);
            $inputs[$name] = match (true) {
                $column instanceof NumberColumn => [
                    'type' => 'double',
                    'values' => array_map(static fn (float $v): ?float => is_nan($v) ? null : $v, $column->values),
                ],
                $column instanceof DateColumn => ['type' => 'double', 'values' => array_map(
                    static fn (int $s): ?float => DateColumn::MISSING === $s ? null : $s / DateColumn::DAY,
                    $column->seconds,
                )],
                default => ['type' => 'string', 'values' => array_map($column->text(...), range(0, $records->rows - 1))],
            };
        }

        return self::$runtime->answers($model, $inputs);
    }

    /** A database that holds the records as text and numbers, as one finds them. */
    private static function database(Table $records): \PDO
    {
        $pdo = new \PDO('sqlite::memory:', options: [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => false]);
        $pdo->exec('CREATE TABLE new (place INTEGER, age REAL, cost TEXT, area TEXT, sent TEXT, day TEXT)');
        $insert = $pdo->prepare('INSERT INTO new VALUES (?, ?, ?, ?, ?, ?)');
        for ($row = 0; $row < $records->rows; ++$row) {
            $number = static fn (string $c): ?float => is_nan(
                $records->number($c)->values[$row],
            ) ? null : $records->number($c)->values[$row];
            $sent = $records->column('sent')->text($row);
            $day = $records->column('day')->text($row);
            $insert->execute(
                [
                    $row,
                    $number('age'),
                    null === $number('cost') ? '' : (string) $number('cost'),
                    $records->column('area')->text($row),
                    null === $sent ? ' ' : ('yes' === $sent ? 'TRUE' : 'f'),
                    $day,
                ],
            );
        }

        return $pdo;
    }

    /** @return iterable<string, array{Form}> */
    public static function forms(): iterable
    {
        foreach ([Form::PostgreSql, Form::Sqlite, Form::Onnx, Form::Json] as $form) {
            yield $form->title() => [$form];
        }
    }

    #[DataProvider('forms')]
    public function testItIsProvenBeforeItIsHandedOut(Form $form): void
    {
        self::$runtime ??= new OnnxReader(\dirname(__DIR__, 3).'/tools/onnx');
        $model = self::model('boosting', Task::TWO, ['trees' => 40], 'fills and bins');
        $real = $model->select(self::records(60, false), $model->byName());
        [$bytes, $proof] = (new TakeAway(self::$runtime))->of($model, $form, $real);
        self::assertNotSame('', $bytes);
        self::assertTrue($proof->holds());
        self::assertLessThanOrEqual($form->within(), $proof->largest);
        self::assertSame(60, $proof->made['real']);
        foreach ($proof->made as $sort => $many) {
            self::assertGreaterThan(3, $many, $sort);
        }
        self::assertSame(array_sum($proof->made), $proof->records);
        self::assertStringContainsString('its answers are the same', $proof->sentence());
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function cards(): iterable
    {
        foreach (['tree', 'rules', 'baseline'] as $learner) {
            foreach (Learners::about($learner)->tasks as $task) {
                foreach (['none', 'fills and bins', 'pairs, levels and limits', 'dates, recoded'] as $steps) {
                    yield "$learner, $task, $steps" => [$learner, $task, $steps];
                }
            }
        }
    }

    #[DataProvider('cards')]
    public function testACardIsFollowedByItsTextAlone(string $learner, string $task, string $steps): void
    {
        $model = self::model($learner, $task, [], $steps);
        self::assertTrue(RuleCard::fits($model));
        $real = $model->select(self::records(60, true), $model->byName());
        [$card, $proof] = (new TakeAway(new OnnxReader('nowhere')))->of($model, Form::Card, $real);
        self::assertTrue($proof->holds());
        self::assertStringContainsString('→ ', $card);
        if ('tree' === $learner) {
            self::assertGreaterThan(5, substr_count($card, "\n"));
            // Another threshold is another answer: the proof reads what is written.
            $moved = (string) preg_replace('/ is up to [-0-9.]+/', ' is up to -1000', $card, -1, $many);
            self::assertGreaterThan(0, $many);
            $same = $differs = 0;
            $prepared = $model->preparation->apply($real);
            for ($row = 0; $row < $real->rows; ++$row) {
                $record = array_map(static fn (Column $c): float|string|null => Sample::cell($c, $row), $prepared->table->columns());
                (new CardReader($card))->answers($record) === (new CardReader($moved))->answers($record) ? ++$same : ++$differs;
            }
            self::assertGreaterThan(0, $differs);
        }
    }

    public function testWhatAddsUpFitsOnNoCard(): void
    {
        foreach (['logistic' => [], 'boosting' => ['trees' => 4], 'naive-bayes' => []] as $learner => $settings) {
            self::assertFalse(RuleCard::fits(self::model($learner, Task::TWO, $settings, 'none')), $learner);
        }
    }

    public function testTheFileFollowsItsPublishedSchema(): void
    {
        $schema = json_decode(
            (string) file_get_contents(\dirname(__DIR__, 3).'/docs/schemas/program-1.json'),
            false,
            512,
            \JSON_THROW_ON_ERROR,
        );
        foreach (['boosting' => ['trees' => 8], 'logistic' => ['bent' => 'all', 'missing' => 'fill and mark']] as $learner => $settings) {
            $written = json_encode(
                Program::of(self::model($learner, Task::TWO, $settings, 'pairs, levels and limits')),
                \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION,
            );
            $plain = json_decode($written, false, 4096, \JSON_THROW_ON_ERROR);
            \assert(\is_object($schema) && \is_object($plain));
            self::assertTrue((new Validator())->validate($plain, $schema)->isValid(), $learner);
            $other = json_decode(str_replace('"inputs"', '"columns"', $written), false, 4096, \JSON_THROW_ON_ERROR);
            \assert(\is_object($other));
            self::assertFalse((new Validator())->validate($other, $schema)->isValid());
        }
    }

    /** A proof that cannot fail is none. */
    public function testAnotherAnswerIsFound(): void
    {
        $model = self::model('tree', Task::TWO, [], 'none');
        $real = $model->select(self::records(20, false), $model->byName());
        $sample = Sample::of(Program::of($model), $real);
        $wanted = $model->answers($model->select($sample->records, $model->byName()));
        $found = array_map(static fn (int $row): array => $wanted->of($row), range(0, $wanted->rows() - 1));
        self::assertTrue(Proof::of('nobody', $wanted, $found, $sample, 1e-9)->holds());
        $found[7][0] += 1e-8;
        $found[9][0] = null;
        $proof = Proof::of('nobody', $wanted, $found, $sample, 1e-9);
        self::assertFalse($proof->holds());
        self::assertSame([7, 9], $proof->apart);
        self::assertStringContainsString('2 of them are answered otherwise', $proof->sentence());
        self::assertFalse(Proof::of('nobody', $wanted, \array_slice($found, 0, 3), $sample, 1.0)->holds());
    }

    public function testWhatHasNoFormulaIsSaidBefore(): void
    {
        $says = Program::cannot(self::model('neighbors', Task::TWO, ['find' => false, 'k' => 5], 'none'));
        self::assertSame(['A model of this kind answers by what no formula holds; ask it over its service instead.'], $says);
    }
}
