<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Prepare;

use Dokimos\Core\Prepare\CannotPrepare;
use Dokimos\Core\Prepare\Lesson;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Prepare\Steps;
use Dokimos\Core\Prepare\Treatments;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Each kind of step by cases worked by hand; "–" stands for a missing cell. */
final class StepKindsTest extends TestCase
{
    private static function table(): Table
    {
        return Table::of([
            'n' => new NumberColumn([1.0, 2.0, \NAN, 4.0, 100.0, -1.0]),
            'm' => new NumberColumn([2.0, 0.0, 3.0, \NAN, 5.0, 6.0]),
            'c' => CodedColumn::fromCells(['red', 'red', 'blue', null, 'blue', 'green']),
            'y' => CodedColumn::fromCells(['yes', 'no', 'no', 'yes', 'no', 'no'], Kind::YesNo),
            'd' => new DateColumn([0, 86400 * 365, DateColumn::MISSING, 86400 * 31 + 3600 * 5, 86400 * 2, -86400]),
            't' => new TextColumn(['the boiler leaks', 'boiler cold', null, 'the the the', 'leaks and leaks', 'cold cold boiler']),
        ]);
    }

    /** @return list<string> */
    private static function cells(Table $table, string $name): array
    {
        $column = $table->column($name);

        return array_map(static fn (int $row) => $column->text($row) ?? '–', $table->rows > 0 ? range(0, $table->rows - 1) : []);
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, ?list<string>>, string}> settings, columns after it (null: gone), part of its sentence */
    public static function cases(): iterable
    {
        $fill = static fn (string $method, string $column, array $more = []): array => [
            'step' => 'fill_missing',
            'columns' => [$column],
            'method' => $method,
        ] + $more;
        yield 'keep only' => [
            ['step' => 'keep_only', 'columns' => ['n', 'c']],
            ['n' => ['1', '2', '–', '4', '100', '-1'], 'm' => null, 'y' => null, 'd' => null, 't' => null],
            'Keeps n and c; sets m, y, d and t aside.',
        ];
        yield 'every number aside' => [
            ['step' => 'set_aside', 'choose' => ['kinds' => ['number']]],
            ['n' => null, 'm' => null, 'c' => ['red', 'red', 'blue', '–', 'blue', 'green']],
            'Sets n and m aside.',
        ];
        yield 'drop columns' => [
            ['step' => 'drop_columns', 'share' => 0.1],
            ['n' => null, 't' => null, 'y' => ['yes', 'no', 'no', 'yes', 'no', 'no']],
            'n (16.7%)',
        ];
        yield 'drop no column' => [
            ['step' => 'drop_columns', 'share' => 0.2],
            ['n' => ['1', '2', '–', '4', '100', '-1']],
            'Drops nothing: no column lacks more than 20%',
        ];
        yield 'rename' => [
            ['step' => 'rename', 'column' => 'n', 'to' => 'number of visits'],
            ['n' => null, 'number of visits' => ['1', '2', '–', '4', '100', '-1']],
            'Calls n number of visits.',
        ];
        yield 'kind to number' => [
            ['step' => 'change_kind', 'columns' => ['c'], 'kind' => 'number'],
            ['c' => ['–', '–', '–', '–', '–', '–']],
            '5 cells do not fit and become missing',
        ];
        yield 'kind to yes/no' => [
            ['step' => 'change_kind', 'columns' => ['n', 'y'], 'kind' => 'yes/no'],
            ['n' => ['yes', '–', '–', '–', '–', '–'], 'y' => ['yes', 'no', 'no', 'yes', 'no', 'no']],
            '4 cells do not fit',
        ];
        yield 'kind to category' => [
            ['step' => 'change_kind', 'columns' => ['n'], 'kind' => 'category'],
            ['n' => ['1', '2', '–', '4', '100', '-1']],
            'every cell fits',
        ];
        yield 'mean' => [$fill('mean', 'm'), ['m' => ['2', '0', '3', '3.2', '5', '6']], 'mean of the training rows: m (3.2)'];
        yield 'zero' => [$fill('zero', 'm'), ['m' => ['2', '0', '3', '0', '5', '6']], 'with zero'];
        yield 'constant' => [
            $fill('constant', 'c', ['constant' => 'unknown']),
            ['c' => ['red', 'red', 'blue', 'unknown', 'blue', 'green']],
            'with a constant: c (unknown)',
        ];
        yield 'constant date' => [
            $fill('constant', 'd', ['constant' => '1970-01-05']),
            ['d' => ['1970-01-01', '1971-01-01', '1970-01-05', '1970-02-01T05:00:00', '1970-01-03', '1969-12-31']],
            '1970-01-05',
        ];
        // Group "no" has 2, 100 and -1 known; "yes" has 1 and 4.
        yield 'by group' => [
            $fill('median by group', 'n', ['group' => 'y', 'mark' => true]),
            ['n' => ['1', '2', '2', '4', '100', '-1'], 'n_was_missing' => ['no', 'no', 'yes', 'no', 'no', 'no']],
            'with the same y: n (2 to 2.5)',
        ];
        yield 'by group of itself missing takes that of all' => [
            $fill('median by group', 'm', ['group' => 'c']),
            ['m' => ['2', '0', '3', '3', '5', '6']],
            'with the same c',
        ];
        yield 'drop rows' => [
            ['step' => 'drop_rows', 'columns' => ['n', 'c']],
            ['n' => ['1', '2', 'out: n missing', 'out: c missing', '100', '-1']],
            'Drops rows that miss n or c.',
        ];
        yield 'keep rows' => [
            ['step' => 'keep_rows', 'where' => [['n', 'is over', '1']]],
            ['n' => ['out: not n is over 1', '2', 'out: not n is over 1', '4', '100', 'out: not n is over 1']],
            'Keeps rows where n is over 1.',
        ];
        yield 'remove rows' => [
            ['step' => 'keep_rows', 'mode' => 'taken out', 'any' => true, 'where' => [['c', 'is', 'green'], ['m', 'is missing']]],
            ['n' => ['1', '2', '–', 'out: c is green or m is missing', '100', 'out: c is green or m is missing']],
            'Takes out rows where',
        ];
        // Quartiles of 1, 2, 4, 100, -1 are 1 and 4.
        yield 'fences' => [
            ['step' => 'outliers', 'columns' => ['n'], 'reach' => 1.5],
            ['n' => ['1', '2', '–', '4', '8.5', '-1']],
            'Caps 1 value: n outside -3.5 to 8.5.',
        ];
        yield 'own limits made missing' => [
            ['step' => 'outliers', 'columns' => ['n'], 'rule' => 'own limits', 'low' => 0, 'action' => 'made missing'],
            ['n' => ['1', '2', '–', '4', '100', '–']],
            'Makes missing 1 value: n below 0.',
        ];
        yield 'percentiles taken out' => [
            ['step' => 'outliers', 'columns' => ['n'], 'rule' => 'percentiles', 'reach' => 10, 'action' => 'taken out with their row'],
            ['n' => ['1', '2', '–', '4', 'out: n beyond its limits', 'out: n beyond its limits']],
            'Takes out the rows of 2 values',
        ];
        yield 'a code made missing' => [
            ['step' => 'recode', 'column' => 'n', 'pairs' => [['-1', ''], ['100', '10']]],
            ['n' => ['1', '2', '–', '4', '10', '–']],
            'Recodes 2 cells of n: -1 becomes missing and 100 becomes 10.',
        ];
        yield 'levels put together' => [
            ['step' => 'recode', 'column' => 'c', 'pairs' => [['red', 'warm'], ['green', 'cool'], ['blue', 'cool']]],
            ['c' => ['warm', 'warm', 'cool', '–', 'cool', 'cool']],
            'Recodes 5 cells',
        ];
        yield 'text recoded' => [
            ['step' => 'recode', 'column' => 't', 'pairs' => [['boiler cold', '']]],
            ['t' => ['the boiler leaks', '–', '–', 'the the the', 'leaks and leaks', 'cold cold boiler']],
            'becomes missing',
        ];
        yield 'rare' => [
            ['step' => 'group_rare', 'columns' => ['c'], 'share' => 0.3],
            ['c' => ['red', 'red', 'blue', '–', 'blue', 'other']],
            'Calls 1 rare value of c "other"',
        ];
        yield 'date parts' => [
            ['step' => 'date_parts', 'column' => 'd', 'parts' => ['year', 'month', 'weekday', 'weekend', 'hour', 'quarter', 'day of year']],
            [
                'd' => null,
                'd_year' => ['1970', '1971', '–', '1970', '1970', '1969'],
                'd_month' => ['January', 'January', '–', 'February', 'January', 'December'],
                'd_weekday' => ['Thursday', 'Friday', '–', 'Sunday', 'Saturday', 'Wednesday'],
                'd_weekend' => ['no', 'no', '–', 'yes', 'yes', 'no'],
                'd_hour' => ['0', '0', '–', '5', '0', '0'],
                'd_quarter' => ['1', '1', '–', '1', '1', '4'],
                'd_day_of_year' => ['1', '1', '–', '32', '3', '365'],
            ],
            'which is then set aside',
        ];
        yield 'days since' => [
            ['step' => 'date_parts', 'column' => 'd', 'parts' => ['days since 1970'], 'keep' => true],
            ['d_days_since_1970' => ['0', '365', '–', '31', '2', '-1']],
            'Makes the days since 1970 of d.',
        ];
        yield 'bins of own cuts' => [
            ['step' => 'bins', 'columns' => ['n'], 'method' => 'own cut points', 'cuts' => [4, 1]],
            ['n' => ['up to 1', 'over 1 to 4', '–', 'over 1 to 4', 'over 4', 'up to 1']],
            'with own cut points, as one category: n (cut at 1 and 4)',
        ];
        yield 'ordered marks' => [
            ['step' => 'bins', 'columns' => ['n'], 'method' => 'own cut points', 'cuts' => [1, 4], 'as' => 'ordered yes/no marks'],
            ['n' => null, 'n_over_1' => ['no', 'yes', '–', 'yes', 'yes', 'no'], 'n_over_4' => ['no', 'no', '–', 'no', 'yes', 'no']],
            'as ordered yes/no marks',
        ];
        yield 'bins of equal width' => [
            ['step' => 'bins', 'columns' => ['m'], 'method' => 'equal width', 'bins' => 2],
            ['m' => ['up to 3', 'up to 3', 'up to 3', '–', 'over 3', 'over 3']],
            'equal width',
        ];
        yield 'square root' => [
            ['step' => 'bins', 'columns' => ['m'], 'method' => 'square root of rows'],
            ['m' => ['up to 3', 'up to 3', 'up to 3', '–', 'over 3', 'over 3']],
            'square root of rows',
        ];
        yield 'range' => [
            ['step' => 'scale', 'columns' => ['m'], 'method' => 'range'],
            ['m' => ['0.3333333333333333', '0', '0.5', '–', '0.8333333333333334', '1']],
            'Puts on 0 to 1: m (0 to 6).',
        ];
        yield 'logarithm' => [
            ['step' => 'scale', 'columns' => ['n'], 'method' => 'logarithm'],
            ['n' => ['0.6931471805599453', '1.0986122886681096', '–', '1.6094379124341003', '4.61512051684126', '-0.6931471805599453']],
            'either side of 0',
        ];
        yield 'rank' => [
            ['step' => 'scale', 'columns' => ['m'], 'method' => 'rank'],
            ['m' => ['0.25', '0', '0.5', '–', '0.75', '1']],
            'share of training rows at or below',
        ];
        yield 'one column a value' => [
            ['step' => 'encode', 'columns' => ['c']],
            [
                'c' => null,
                'c is blue' => ['no', 'no', 'yes', '–', 'yes', 'no'],
                'c is green' => ['no', 'no', 'no', '–', 'no', 'yes'],
                'c is red' => ['yes', 'yes', 'no', '–', 'no', 'no'],
            ],
            'each value of c (3)',
        ];
        yield 'frequency' => [
            ['step' => 'encode', 'columns' => ['c'], 'method' => 'frequency'],
            ['c' => ['0.3333333333333333', '0.3333333333333333', '0.3333333333333333', '–', '0.3333333333333333', '0.16666666666666666']],
            'frequency in training rows',
        ];
        yield 'product' => [
            ['step' => 'interact', 'column' => 'n', 'other' => 'm'],
            ['n_times_m' => ['2', '0', '–', '–', '500', '-6']],
            'the product of n and m',
        ];
        yield 'ratio' => [
            ['step' => 'interact', 'column' => 'n', 'how' => 'ratio', 'other' => 'm'],
            ['n_per_m' => ['0.5', '–', '–', '–', '20', '-0.16666666666666666']],
            'ratio',
        ];
        yield 'pairs' => [
            ['step' => 'interact', 'column' => 'c', 'how' => 'pairs of values', 'other' => 'y'],
            ['c_and_y' => ['red, yes', 'red, no', 'blue, no', '–', 'blue, no', 'green, no']],
            'pairs of values',
        ];
        yield 'words' => [
            ['step' => 'text_terms', 'column' => 't', 'least' => 0.3, 'stop' => true],
            [
                't' => null,
                't: boiler' => ['yes', 'yes', '–', 'no', 'no', 'yes'],
                't: cold' => ['no', 'yes', '–', 'no', 'no', 'yes'],
                't: leaks' => ['yes', 'no', '–', 'no', 'yes', 'no'],
            ],
            'columns of 3 words of t: boiler, cold and leaks',
        ];
        yield 'words counted, in pairs' => [
            ['step' => 'text_terms', 'column' => 't', 'as' => 'how often', 'least' => 0.4, 'pairs' => true, 'keep' => true],
            ['t: boiler' => ['1', '1', '–', '0', '0', '1'], 't: leaks' => ['1', '0', '–', '0', '2', '0']],
            'words',
        ];
        yield 'no word' => [['step' => 'text_terms', 'column' => 't', 'least' => 0.99], ['t' => null], 'Makes nothing of t'];
        yield 'formula' => [
            ['step' => 'formula', 'name' => 'late', 'formula' => 'n > 1 and m >= 0'],
            ['late' => ['no', 'yes', '–', '–', 'yes', 'no']],
            'Makes late: n > 1 and m >= 0.',
        ];
        yield 'duplicates' => [
            ['step' => 'duplicates', 'columns' => ['y']],
            ['n' => ['1', '2', '–', '4', '100', '-1']],
            'Removes 4 training rows equal to an earlier one in y.',
        ];
    }

    /**
     * @param array<string, mixed>         $settings
     * @param array<string, ?list<string>> $expected
     */
    #[DataProvider('cases')]
    public function testWhatAStepDoes(array $settings, array $expected, string $says): void
    {
        $fitted = Preparation::fromArray([$settings])->fit(self::table(), range(0, 5));
        $out = $fitted->apply(self::table());
        foreach ($expected as $name => $cells) {
            self::assertSame(null !== $cells, $out->table->has($name), $name);
            if (null !== $cells) {
                $got = self::cells($out->table, $name);
                foreach ($out->out as $row => $why) {
                    $got[$row] = 'out: '.$why;
                }
                self::assertSame($cells, $got, $name);
            }
        }
        self::assertStringContainsString($says, $fitted->steps[0]->sentence());
    }

    public function testDuplicatesShapeWhatIsLearnedFromAndNothingElse(): void
    {
        $fitted = Preparation::fromArray([['step' => 'duplicates', 'columns' => ['y']]])->fit(self::table(), [0, 1, 2, 4]);
        self::assertSame([0, 1], $fitted->rows);
        self::assertSame([6, 4], [$fitted->tolls[0]->rowsBefore, $fitted->tolls[0]->rowsAfter]);
        self::assertSame([], $fitted->apply(self::table())->out);
        self::assertSame(
            0,
            Preparation::fromArray([[
                'step' => 'duplicates',
                'choose' => ['kinds' => []],
            ]])->fit(self::table(), range(0, 5))->tolls[0]->rowsBefore - 6,
        );
    }

    public function testWaysToTreatMissingCellsAreTriedWhereTheAnswerIsKnown(): void
    {
        $twice = $half = $group = [];
        for ($i = 0; $i < 100; ++$i) {
            $twice[] = 7 === $i % 10 ? \NAN : 2.0 * ($i % 23);
            $half[] = (float) ($i % 23);
            $group[] = $i % 23 > 11 ? 'high' : 'low';
        }
        $table = Table::of(['x' => new NumberColumn($twice), 'half' => new NumberColumn($half), 'g' => CodedColumn::fromCells($group)]);
        $ways = array_column(Treatments::of(new Lesson($table, range(0, 99)), 'x', 'g'), null, 'method');
        self::assertSame(['drop rows', 'mean', 'median', 'median by group', 'by model'], array_keys($ways));
        self::assertSame([10, 0], [$ways['drop rows']->rowsLost, $ways['mean']->rowsLost]);
        self::assertLessThan(0.5, $ways['by model']->error, 'it is twice the other column');
        self::assertLessThan($ways['median']->error, $ways['median by group']->error);
        self::assertLessThan(1.0, $ways['mean']->spread);
        self::assertGreaterThan($ways['mean']->spread, $ways['by model']->spread);
        self::assertSame([], Treatments::of(new Lesson($table, range(0, 99)), 'half', ''), 'nothing is missing');
        self::assertSame([], Treatments::of(new Lesson($table, range(0, 99)), 'g', ''), 'no number');
    }

    public function testValuesNeverSeenInTrainingAreTreatedAsIsSaid(): void
    {
        $new = Table::of(['c' => CodedColumn::fromCells(['violet', null, 'red'])]);
        $after = static fn (array $step): Table => Preparation::fromArray([$step + ['columns' => ['c']]])->fit(
            self::table(),
            range(0, 5),
            [1.0, 0.0, 0.0, 1.0, 0.0, 1.0],
        )->apply($new)->table;
        self::assertSame(['other', '–', 'red'], self::cells($after(['step' => 'group_rare', 'share' => 0.0]), 'c'));
        self::assertSame(['no', '–', 'yes'], self::cells($after(['step' => 'encode']), 'c is red'));
        self::assertSame(['0', '–', '0.3333333333333333'], self::cells($after(['step' => 'encode', 'method' => 'frequency']), 'c'));
        // (1 + 20 × 0.5) / (2 + 20) for red; a missing cell is a value of its own: (1 + 10) / (1 + 20).
        self::assertSame(
            ['0.5', '0.5238095238095238', '0.5'],
            self::cells($after(['step' => 'encode', 'method' => 'share of the event']), 'c'),
        );
        self::assertSame('0', self::cells($after(['step' => 'encode', 'method' => 'weight of evidence']), 'c')[0]);
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function impossible(): iterable
    {
        yield 'nothing kept' => [['step' => 'keep_only', 'choose' => ['kinds' => ['identifier']]], 'none would be left'];
        yield 'a name taken' => [['step' => 'rename', 'column' => 'n', 'to' => 'm'], 'There is a column m already'];
        yield 'no name' => [['step' => 'rename', 'column' => 'n'], 'Say the new name'];
        yield 'renamed before' => [['step' => 'rename', 'column' => 'gone', 'to' => 'x'], 'There is no column gone at this point'];
        yield 'constant of another kind' => [
            ['step' => 'fill_missing', 'columns' => ['n'], 'method' => 'constant', 'constant' => 'many'],
            '"many" is not a number',
        ];
        yield 'zero for a category' => [
            ['step' => 'fill_missing', 'columns' => ['c'], 'method' => 'zero'],
            'only numbers can be filled with zero',
        ];
        yield 'no group' => [
            ['step' => 'fill_missing', 'columns' => ['n'], 'method' => 'median by group'],
            'Choose the column whose groups',
        ];
        yield 'groups of numbers' => [
            ['step' => 'fill_missing', 'columns' => ['n'], 'method' => 'median by group', 'group' => 'm'],
            'm holds number',
        ];
        yield 'no condition' => [['step' => 'keep_rows'], 'at least one condition'];
        yield 'an unclear condition' => [['step' => 'keep_rows', 'where' => [['n', 'is near', '1']]], 'is not a relation'];
        yield 'a condition on nothing' => [['step' => 'keep_rows', 'where' => [['gone', 'is', '1']]], 'There is no column gone'];
        yield 'limits the wrong way round' => [
            ['step' => 'outliers', 'columns' => ['n'], 'rule' => 'own limits', 'low' => 5, 'high' => 1],
            'above the highest',
        ];
        yield 'no limits' => [['step' => 'outliers', 'columns' => ['n'], 'rule' => 'own limits'], 'lowest value allowed'];
        yield 'outliers of a category' => [['step' => 'outliers', 'columns' => ['c']], 'c holds category; only number has outliers'];
        yield 'recode to what does not fit' => [['step' => 'recode', 'column' => 'n', 'pairs' => [['1', 'one']]], '"one" is not a number'];
        yield 'recode nothing' => [['step' => 'recode', 'column' => 'n', 'pairs' => []], 'at least one value'];
        yield 'recode nonsense' => [['step' => 'recode', 'column' => 'n', 'pairs' => [['1']]], 'a value and what it becomes'];
        yield 'parts of a number' => [['step' => 'date_parts', 'column' => 'n', 'parts' => ['year']], 'only dates can be split'];
        yield 'no such part' => [['step' => 'date_parts', 'column' => 'd', 'parts' => ['moon']], 'not a part of a date'];
        yield 'bins without cuts' => [['step' => 'bins', 'columns' => ['n'], 'method' => 'own cut points'], 'at least one cut point'];
        yield 'half a bin' => [['step' => 'bins', 'columns' => ['n'], 'bins' => 2.5], 'is a whole number'];
        yield 'too many bins' => [['step' => 'bins', 'columns' => ['n'], 'bins' => 1000], 'a number from 2 to 100'];
        yield 'cuts that are none' => [
            ['step' => 'bins', 'columns' => ['n'], 'method' => 'own cut points', 'cuts' => ['a']],
            'list of numbers',
        ];
        yield 'by a target that is not there' => [
            ['step' => 'bins', 'columns' => ['n'], 'method' => 'by the target'],
            'learns from the target',
        ];
        yield 'telling of nothing' => [['step' => 'keep_strong'], 'learns from the target'];
        yield 'a product of words' => [
            ['step' => 'interact', 'column' => 'n', 'other' => 'c'],
            'c holds category; for a product it must hold numbers',
        ];
        yield 'components of one' => [['step' => 'components', 'columns' => ['n']], 'at least two columns'];
        yield 'one group' => [['step' => 'clusters', 'columns' => ['n'], 'count' => 1], 'One group parts nothing'];
        yield 'more groups than rows' => [['step' => 'clusters', 'columns' => ['n'], 'count' => 30], 'Too few different training rows'];
        yield 'words of a number' => [['step' => 'text_terms', 'column' => 'n'], 'words are taken from texts'];
        yield 'a formula with a mistake' => [['step' => 'formula', 'name' => 'x', 'formula' => 'n +'], 'At letter'];
        yield 'settings of the wrong form' => [['step' => 'fill_missing', 'columns' => ['n'], 'method' => ['mean']], '"method" is a text'];
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('impossible')]
    public function testWhatCannotBeDoneIsSaid(array $settings, string $says): void
    {
        $this->expectException(CannotPrepare::class);
        $this->expectExceptionMessage($says);
        Preparation::fromArray([$settings])->fit(self::table(), range(0, 5));
    }

    public function testEveryKindIsDescribedAndItsSettingsReadBack(): void
    {
        $seen = [];
        foreach (self::cases() as [$settings]) {
            $step = Steps::fromSettings($settings);
            self::assertEquals($step->toArray(), Steps::fromSettings($step->toArray())->toArray());
            $seen[$settings['step']] = true;
        }
        foreach (Steps::described() as $described) {
            self::assertMatchesRegularExpression('/^[A-Z].*\.$/', $described->says);
            self::assertNotSame([], $described->settings, $described->step);
            self::assertTrue(
                isset($seen[$described->step]) || \in_array($described->step, ['keep_strong', 'components', 'clusters'], true),
                $described->step.' has a case',
            );
        }
    }
}
