<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Prepare;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Prepare\FittedPreparation;
use Dokimos\Core\Prepare\LearnedLook;
use Dokimos\Core\Prepare\Lesson;
use Dokimos\Core\Prepare\OutOfFold;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Prepare\Steps;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What holds for every step, on a table of 300 drawn rows. */
final class StepPropertiesTest extends TestCase
{
    private const ROWS = 300;

    private static function table(int $seed = 5): Table
    {
        $random = new Randomizer(new Mt19937($seed));
        $columns = ['age' => [], 'km' => [], 'cost' => [], 'make' => [], 'late' => [], 'day' => [], 'note' => []];
        $words = ['boiler', 'leak', 'cold', 'noise', 'the', 'valve', 'pipe'];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $columns['age'][] = $random->getInt(0, 9) < 2 ? \NAN : (float) $random->getInt(0, 30);
            $columns['km'][] = $random->getInt(0, 19) < 1 ? -1.0 : $random->getInt(10, 4000) / 100;
            $columns['cost'][] = $columns['km'][$i] * 3 + $random->getInt(0, 100) / 10;
            $columns['make'][] = $random->getInt(0, 9) < 1 ? null : 'make '.min($random->getInt(1, 6), $random->getInt(1, 6));
            $columns['late'][] = $random->getInt(0, 3) < 1 ? 'yes' : 'no';
            $columns['day'][] = $random->getInt(0, 9) < 1 ? DateColumn::MISSING : 86400 * $random->getInt(18000, 19000);
            $columns['note'][] = $random->getInt(0, 9) < 1 ? null : implode(
                ' ',
                array_map(static fn () => $words[$random->getInt(0, 6)], range(1, 4)),
            );
        }

        return Table::of([
            'age' => new NumberColumn($columns['age']),
            'km' => new NumberColumn($columns['km']),
            'cost' => new NumberColumn($columns['cost']),
            'make' => CodedColumn::fromCells($columns['make']),
            'late' => CodedColumn::fromCells($columns['late'], Kind::YesNo),
            'day' => new DateColumn($columns['day']),
            'note' => new TextColumn($columns['note']),
        ]);
    }

    /** @return list<float> */
    private static function event(): array
    {
        $km = self::table()->number('km')->values;

        return array_map(static fn (int $i) => 0 === $i % 29 ? \NAN : ($km[$i] > 20 + $i % 7 ? 1.0 : 0.0), range(0, self::ROWS - 1));
    }

    /** @return iterable<string, array{list<array<string, mixed>>}> */
    public static function preparations(): iterable
    {
        foreach (['median', 'mean', 'most frequent', 'median by group', 'by model'] as $method) {
            yield 'fill with '.$method => [[[
                'step' => 'fill_missing',
                'columns' => ['age'],
                'method' => $method,
                'group' => 'make',
                'mark' => true,
            ]]];
        }
        yield 'fill whatever is missing' => [[['step' => 'fill_missing', 'choose' => ['kinds' => [], 'missing' => true]]]];
        yield 'set numbers aside' => [[['step' => 'set_aside', 'choose' => ['kinds' => ['number']]]]];
        yield 'drop columns' => [[['step' => 'drop_columns', 'share' => 0.15]]];
        yield 'drop rows' => [[['step' => 'drop_rows', 'columns' => ['age', 'make']]]];
        yield 'keep rows' => [[[
            'step' => 'keep_rows',
            'where' => [['make', 'is one of', 'make 1', 'make 2'], ['km', 'is over', '5']],
            'any' => true,
        ]]];
        foreach (['quartile fences', 'robust z', 'percentiles'] as $rule) {
            yield 'outliers by '.$rule => [[[
                'step' => 'outliers',
                'columns' => ['km', 'cost'],
                'rule' => $rule,
                'reach' => 1.0,
                'action' => 'percentiles' === $rule ? 'taken out with their row' : 'capped at the limit',
            ]]];
        }
        yield 'recode' => [[['step' => 'recode', 'column' => 'km', 'pairs' => [['-1', '']]]]];
        yield 'rename and change kind' => [[
            ['step' => 'rename', 'column' => 'age', 'to' => 'years'],
            ['step' => 'change_kind', 'columns' => ['years'], 'kind' => 'category'],
        ]];
        yield 'group rare' => [[['step' => 'group_rare', 'columns' => ['make'], 'share' => 0.2]]];
        yield 'date parts' => [[['step' => 'date_parts', 'column' => 'day', 'parts' => ['month', 'week']]]];
        foreach (['equal width', 'equal frequency', 'square root of rows', 'by the target'] as $method) {
            yield 'bins, '.$method => [[[
                'step' => 'bins',
                'columns' => ['km', 'cost'],
                'method' => $method,
                'as' => 'equal width' === $method ? 'ordered yes/no marks' : 'one category',
            ]]];
        }
        foreach (['standard', 'range', 'logarithm', 'rank'] as $method) {
            yield 'scale, '.$method => [[['step' => 'scale', 'columns' => ['age', 'km'], 'method' => $method]]];
        }
        foreach (['one column a value', 'frequency', 'share of the event', 'weight of evidence'] as $method) {
            yield 'encode, '.$method => [[['step' => 'encode', 'columns' => ['make', 'late'], 'method' => $method]]];
        }
        yield 'telling columns' => [[['step' => 'keep_strong', 'least' => 0.1]]];
        yield 'components' => [[['step' => 'components', 'columns' => ['km', 'cost', 'age'], 'share' => 0.8]]];
        yield 'decomposition' => [[[
            'step' => 'components',
            'columns' => ['km', 'cost'],
            'method' => 'truncated SVD',
            'count' => 1,
            'keep' => true,
        ]]];
        yield 'groups' => [[['step' => 'clusters', 'columns' => ['km', 'age'], 'count' => 0]]];
        yield 'interaction' => [[['step' => 'interact', 'column' => 'km', 'how' => 'ratio', 'other' => 'age']]];
        yield 'words' => [[['step' => 'text_terms', 'column' => 'note', 'as' => 'tf-idf weight', 'pairs' => true, 'most' => 12]]];
        yield 'formula' => [[['step' => 'formula', 'name' => 'x', 'formula' => 'missing(age) ? km : km / age']]];
        yield 'many, one after the other' => [[
            ['step' => 'recode', 'column' => 'km', 'pairs' => [['-1', '']]],
            ['step' => 'fill_missing', 'choose' => ['kinds' => ['number'], 'missing' => true], 'mark' => true],
            ['step' => 'formula', 'name' => 'ratio', 'formula' => 'cost / (km + 1)'],
            ['step' => 'drop_rows', 'columns' => ['make']],
            ['step' => 'encode', 'columns' => ['make'], 'method' => 'weight of evidence'],
            ['step' => 'date_parts', 'column' => 'day', 'parts' => ['weekday']],
            ['step' => 'text_terms', 'column' => 'note', 'most' => 5],
            ['step' => 'scale', 'choose' => ['kinds' => ['number']]],
        ]];
    }

    /** @return list<int> */
    private static function training(): array
    {
        return array_values(array_filter(range(0, self::ROWS - 1), static fn (int $i) => 0 !== $i % 5));
    }

    private static function same(Prepared $expected, Prepared $got, string $why): void
    {
        self::assertSame($expected->table->names(), $got->table->names(), $why);
        self::assertSame($expected->out, $got->out, $why);
        foreach ($expected->table->names() as $name) {
            for ($row = 0; $row < $expected->table->rows; ++$row) {
                self::assertSame(
                    $expected->table->column($name)->text($row),
                    $got->table->column($name)->text($row),
                    "$why: $name, row $row",
                );
            }
        }
    }

    /** @param list<array<string, mixed>> $steps */
    #[DataProvider('preparations')]
    public function testARecordAloneIsTreatedAsInABatchAndAfterBeingStored(array $steps): void
    {
        $table = self::table();
        $fitted = Preparation::fromArray($steps)->fit($table, self::training(), self::event());
        /** @var list<array<string, mixed>> $stored */
        $stored = json_decode(json_encode($fitted->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
        $back = FittedPreparation::fromArray($stored);
        $whole = $fitted->apply($table);
        self::same($whole, $back->apply($table), 'read back');
        foreach ([0, 7, 155, 299] as $row) {
            $alone = $back->apply($table->take([$row]));
            self::same(
                new Prepared($whole->table->take([$row]), isset($whole->out[$row]) ? [0 => $whole->out[$row]] : []),
                $alone,
                'alone',
            );
        }
        $chunks = array_map(static fn (array $rows) => $back->apply($table->take($rows)), array_chunk(range(0, self::ROWS - 1), 77));
        self::assertSame($whole->missing(), array_sum(array_map(static fn (Prepared $p) => $p->missing(), $chunks)));
        self::assertSame(
            array_map(static fn ($s) => $s->sentence(), $fitted->steps),
            array_map(static fn ($s) => $s->sentence(), $back->steps),
        );
    }

    /** @param list<array<string, mixed>> $steps */
    #[DataProvider('preparations')]
    public function testWhatIsLearnedDependsOnTrainingRowsAlone(array $steps): void
    {
        $table = self::table();
        $other = self::table(6);
        $event = self::event();
        $training = array_fill_keys(self::training(), true);
        $mixed = [];
        foreach ($table->columns() as $name => $column) {
            $mixed[$name] = self::mixed($column, $other->column((string) $name), $training);
        }
        $turned = array_map(static fn (int $i) => isset($training[$i]) ? $event[$i] : 1.0 - $event[$i], array_keys($event));
        $one = Preparation::fromArray($steps)->fit($table, self::training(), $event);
        $two = Preparation::fromArray($steps)->fit(Table::of($mixed), self::training(), $turned);
        // Counts of cells in the whole table may differ; what is done to a record may not.
        self::same($one->apply($table), $two->apply($table), 'other rows changed');
        self::assertSame($one->rows, $two->rows);
        self::assertNotNull($one->learned);
        self::assertNotNull($two->learned);
        self::same(
            new Prepared($one->learned->table->take($one->rows)),
            new Prepared($two->learned->table->take($two->rows)),
            'what is learned from',
        );
    }

    /** @param array<int, true> $training */
    private static function mixed(Column $one, Column $other, array $training): Column
    {
        $rows = range(0, self::ROWS - 1);

        return match (true) {
            $one instanceof NumberColumn && $other instanceof NumberColumn => new NumberColumn(array_map(
                static fn (int $i) => isset($training[$i]) ? $one->values[$i] : $other->values[$i],
                $rows,
            )),
            $one instanceof DateColumn && $other instanceof DateColumn => new DateColumn(array_map(
                static fn (int $i) => isset($training[$i]) ? $one->seconds[$i] : $other->seconds[$i],
                $rows,
            )),
            $one instanceof TextColumn => new TextColumn(array_map(
                static fn (int $i) => isset($training[$i]) ? $one->text($i) : $other->text($i),
                $rows,
            )),
            default => CodedColumn::fromCells(
                array_map(
                    static fn (int $i) => isset($training[$i]) ? $one->text($i) : (null === $other->text($i) ? null : $other->text($i)),
                    $rows,
                ),
                $one->kind(),
            ),
        };
    }

    /** @param list<array<string, mixed>> $steps */
    #[DataProvider('preparations')]
    public function testTheTollIsWhatIsCountedIndependently(array $steps): void
    {
        $table = self::table();
        for ($n = 1; $n <= \count($steps); ++$n) {
            $fitted = Preparation::fromArray(\array_slice($steps, 0, $n))->fit($table, self::training(), self::event());
            $after = $fitted->apply($table);
            $rows = $missing = 0;
            for ($row = 0; $row < $table->rows; ++$row) {
                if (!isset($after->out[$row])) {
                    ++$rows;
                    foreach ($after->table->columns() as $column) {
                        $missing += null === $column->text($row) ? 1 : 0;
                    }
                }
            }
            $toll = $fitted->tolls[$n - 1];
            self::assertSame([$rows, \count($after->table->names())], [$toll->rowsAfter, $toll->columnsAfter]);
            if (!$fitted->steps[$n - 1] instanceof OutOfFold) {
                self::assertSame($missing, $toll->missingAfter);
            }
        }
    }

    /** @param list<array<string, mixed>> $steps */
    #[DataProvider('preparations')]
    public function testNewRecordsNeedOnlyWhatIsAskedFor(array $steps): void
    {
        $table = self::table();
        $fitted = Preparation::fromArray($steps)->fit($table, self::training(), self::event());
        $whole = $fitted->apply($table);
        foreach ($whole->table->names() as $name) {
            $asked = $fitted->asks([$name]);
            self::assertSame([], array_diff($asked, $table->names()), $name);
            // In another order, and without the columns that nobody asks for.
            $columns = array_intersect_key($table->columns(), array_flip($asked));
            $few = $fitted->apply(Table::of(array_reverse($columns, true), $table->rows));
            self::assertSame($whole->out, $few->out);
            for ($row = 0; $row < $table->rows; $row += 13) {
                self::assertSame(
                    $whole->table->column($name)->text($row),
                    $few->table->column($name)->text($row),
                    "$name of ".implode(', ', $asked),
                );
            }
        }
    }

    /** What a form shows for a setting not written is what is done without it. */
    public function testASettingLeftOutIsTheOneDescribed(): void
    {
        $needed = [
            'columns' => ['x'],
            'column' => 'x',
            'other' => 'y',
            'to' => 'z',
            'name' => 'z',
            'formula' => 'x',
            'kind' => 'category',
            'where' => [['x', 'is missing']],
            'pairs' => [['a', 'b']],
            'parts' => ['month'],
            'cuts' => [1.0],
        ];
        foreach (Steps::described() as $kind) {
            $bare = ['step' => $kind->step] + array_intersect_key($needed, array_column($kind->settings, 'name', 'name'));
            $usual = array_filter(
                array_column(
                    array_map(static fn ($s) => ['name' => $s->name, 'default' => $s->default], $kind->settings),
                    'default',
                    'name',
                ),
                static fn ($d) => null !== $d,
            );
            self::assertSame(Steps::fromSettings($bare + $usual)->toArray(), Steps::fromSettings($bare)->toArray(), $kind->step);
        }
    }

    public function testWhatIsLearnedIsShownWhereASentenceIsNotEnough(): void
    {
        $notes = array_map(static fn (int $i) => 0 === $i % 4 ? 'boiler leaks again' : 'boiler serviced', range(0, 199));
        $event = array_map(static fn (int $i) => 0 === $i % 4 || 0 === $i % 10 ? 1.0 : 0.0, range(0, 199));
        $lesson = new Lesson(
            Table::of([
                'note' => new TextColumn($notes),
                'a' => new NumberColumn(array_map(floatval(...), range(0, 199))),
                'b' => new NumberColumn(array_map(static fn (int $i) => 2.0 * $i, range(0, 199))),
            ]),
            range(0, 99),
            $event,
            [],
        );
        $look = static fn (array $step): ?LearnedLook => LearnedLook::of(Steps::fromSettings($step)->fit($lesson), $lesson);
        $words = $look(['step' => 'text_terms', 'column' => 'note', 'as' => 'tf-idf weight', 'stop' => false]);
        self::assertSame(
            ['again', '25', '100% (87 to 100)', '7% (3 to 15)'],
            [$words?->rows[0]['name'], ...($words?->rows[0]['cells'] ?? [])],
            '5 of the other 75 training rows',
        );
        self::assertNotContains('boiler', array_column($words->rows ?? [], 'name'), 'it stands in more than 80% of the texts');
        $loadings = $look(['step' => 'components', 'columns' => ['a', 'b'], 'count' => 1]);
        self::assertSame(
            [
                ['name' => 'Share of the variation', 'cells' => ['100%']],
                ['name' => 'a', 'cells' => ['0.71']],
                ['name' => 'b', 'cells' => ['0.71']],
            ],
            $loadings?->rows,
        );
        self::assertNull($look(['step' => 'fill_missing', 'columns' => ['a']]));
    }

    /** A code that means nothing must not look as if it told something. */
    #[DataProvider('fromTheTarget')]
    public function testARandomColumnOfManyValuesGainsNothing(string $method): void
    {
        $random = new Randomizer(new Mt19937(11));
        $codes = $event = [];
        for ($i = 0; $i < 3000; ++$i) {
            $codes[] = 'v'.$random->getInt(1, 600);
            $event[] = $random->getInt(0, 3) < 1 ? 1.0 : 0.0;
        }
        $table = Table::of(['code' => CodedColumn::fromCells($codes)]);
        $fitted = Preparation::fromArray([[
            'step' => 'encode',
            'columns' => ['code'],
            'method' => $method,
        ]])->fit($table, range(0, 1999), $event);
        $auc = static function (Table $prepared, int $from, int $to) use ($event): float {
            $scores = \array_slice($prepared->number('code')->values, $from, $to - $from);

            return (float) (new BinaryScores(\array_slice($event, $from, $to - $from), $scores))->auc();
        };
        self::assertNotNull($fitted->learned);
        self::assertEqualsWithDelta(0.5, $auc($fitted->learned->table, 0, 2000), 0.05, 'where it was learned, out-of-fold');
        self::assertEqualsWithDelta(0.5, $auc($fitted->learned->table, 2000, 3000), 0.05, 'elsewhere');
        self::assertGreaterThan(0.7, $auc($fitted->apply($table)->table, 0, 2000), 'what it would look like otherwise');
    }

    /** @return iterable<array{string}> */
    public static function fromTheTarget(): iterable
    {
        yield ['share of the event'];
        yield ['weight of evidence'];
    }
}
