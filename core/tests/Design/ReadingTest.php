<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Design;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Readings;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** The ways in which a category becomes terms. */
final class ReadingTest extends TestCase
{
    /** Rows 0 to 6 teach; row 7 holds a value never seen, row 8 none. */
    private const CELLS = ['10 to 20', '2 to 10', '20 up', '2 to 10', '10 to 20', '2 to 10', 'odd', 'new', null];

    private static function table(): Table
    {
        return Table::of([
            'size' => CodedColumn::fromCells(self::CELLS),
            'x' => new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 9.0, 7.0]),
        ]);
    }

    /** @return iterable<string, array{Reading, array<string, string>}> term => its value by row of 0, 1, 2, 6, 7, 8 */
    public static function ways(): iterable
    {
        yield 'reference, the first in byte order' => [
            new Reading(true),
            ['size=2 to 10' => '010000', 'size=20 up' => '001000', 'size=odd' => '000100'],
        ];
        yield 'one per value' => [
            new Reading(true, Reading::EACH),
            ['size=10 to 20' => '100000', 'size=2 to 10' => '010000', 'size=20 up' => '001000', 'size=odd' => '000100'],
        ];
        yield 'ordered, numbers in texts by their size' => [
            new Reading(true, Reading::ORDERED),
            ['size>=10 to 20' => '101100', 'size>=20 up' => '001100', 'size>=odd' => '000100'],
        ];
        yield 'rare values share a term, with those never seen' => [
            new Reading(true, rare: 2),
            ['size=2 to 10' => '010000', 'size (rare)' => '001110'],
        ];
        yield 'rare, one per value' => [
            new Reading(true, Reading::EACH, rare: 2),
            ['size=10 to 20' => '100000', 'size=2 to 10' => '010000', 'size (rare)' => '001110'],
        ];
        yield 'rare, ordered' => [new Reading(true, Reading::ORDERED, rare: 2), ['size>=10 to 20' => '100000', 'size (rare)' => '001110']];
        yield 'some columns otherwise' => [
            new Reading(true, Reading::ORDERED, ['size' => Reading::REFERENCE], 3),
            ['size (rare)' => '101110'],
        ];
    }

    /** @param array<string, string> $terms */
    #[DataProvider('ways')]
    public function testTermsAndTheirValues(Reading $reading, array $terms): void
    {
        $coding = Coding::learn(self::table(), ['size'], range(0, 6), [], null, $reading);
        $matrix = $coding->matrix(self::table(), [0, 1, 2, 6, 7, 8]);
        self::assertSame(['(intercept)', ...array_keys($terms)], $matrix->names);
        self::assertSame(
            array_values($terms),
            array_map(static fn (array $column): string => implode('', $column), \array_slice($matrix->block(0), 1)),
        );
        // The quick way of adding up says the same as the matrix.
        $coefficients = ['(intercept)' => 100.0];
        foreach (array_keys($terms) as $j => $name) {
            $coefficients[$name] = 2.0 ** $j;
        }
        $sums = $coding->sums(self::table(), $coefficients, [0, 1, 2, 6, 7, 8]);
        foreach ($sums as $i => $sum) {
            self::assertSame(
                100.0 + array_sum(array_map(
                    static fn (string $values, int $j): float => 2.0 ** $j * (int) $values[$i],
                    array_values($terms),
                    array_keys(array_values($terms)),
                )),
                $sum,
            );
        }
        /** @var array<string, mixed> $stored */
        $stored = json_decode(json_encode($coding->toArray(), \JSON_THROW_ON_ERROR), true);
        self::assertEquals($matrix, Coding::fromArray($stored)->matrix(self::table(), [0, 1, 2, 6, 7, 8]));
    }

    public function testTheMeanOfTheOutcomeNeedsNoManyValues(): void
    {
        $coding = Coding::learn(
            self::table(),
            ['size'],
            range(0, 6),
            ['mean outcome' => self::table()->number('x')->values],
            null,
            new Reading(way: Reading::MEANS),
        );
        self::assertSame(['(intercept)', 'size (mean outcome)'], $coding->matrix(self::table(), [0])->names);
        $mean = 29 / 7;
        self::assertEqualsWithDelta(
            [(6 + 20 * $mean) / 22, (12 + 20 * $mean) / 23, $mean],
            $coding->matrix(self::table(), [0, 1, 7])->block(0)[1],
            1e-12,
        );
    }

    public function testAllValuesRareOrOneIsNothingToLearnFrom(): void
    {
        self::assertSame(
            'the same value in every training row',
            Coding::learn(self::table(), ['size'], range(0, 6), [], null, new Reading(rare: 4))->leftOut['size'],
        );
    }

    /** The same space of answers: only how coefficients read is another. */
    public function testPlainRegressionsAnswerTheSameWhateverTheWay(): void
    {
        $rows = 120;
        $cells = $x = $y = $event = $class = [];
        for ($i = 0; $i < $rows; ++$i) {
            $cells[] = ['a', 'b', 'c', 'd'][$i * 7 % 11 % 4];
            $x[] = sin($i * 1.7);
            $y[] = $x[$i] + \ord($cells[$i]) % 3 + cos($i * 5.3);
            $event[] = (float) ($y[$i] > 1.2);
            $class[] = $y[$i] < 0.5 ? 0.0 : ($y[$i] < 1.5 ? 1.0 : 2.0);
        }
        $table = Table::of(['g' => CodedColumn::fromCells($cells), 'x' => new NumberColumn($x)]);
        foreach ([
            'linear' => [$y, null],
            'logistic' => [$event, ['no', 'yes']],
            'multinomial' => [$class, ['p', 'q', 'r']],
        ] as $learner => [$outcome, $classes]) {
            $task = new Task($table, ['g', 'x'], $outcome, range(0, $rows - 1), null, $classes);
            $usual = Learners::make($learner)->fit($task)->predict($table);
            foreach ([['coding' => 'one per value'], ['coding' => 'ordered'], ['otherwise' => 'g: ordered'], ['rare' => 1]] as $settings) {
                self::assertEqualsWithDelta(
                    $usual,
                    Learners::make($learner, $settings)->fit($task)->predict($table),
                    1e-7,
                    $learner.' '.json_encode($settings),
                );
            }
        }
        self::assertStringContainsString(
            'g=d said nothing that the other terms do not already say',
            implode(
                ' ',
                Learners::make(
                    'linear',
                    ['coding' => 'one per value'],
                )->fit(new Task($table, ['g', 'x'], $y, range(0, $rows - 1), null, null))->notes(),
            ),
        );
    }

    /** @return iterable<string, array{string, string}> */
    public static function mistakes(): iterable
    {
        yield 'no colon' => ['size', '"size" does not say how a column is read'];
        yield 'no such way' => ['size: sorted', 'one of reference, one per value, ordered, target mean'];
        yield 'no such column' => ['width: ordered', 'no category "width" among the inputs that could be read ordered'];
        yield 'a number' => ['x: ordered', 'no category "x" among the inputs'];
    }

    #[DataProvider('mistakes')]
    public function testMistakesAreSaid(string $otherwise, string $says): void
    {
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage($says);
        Learners::make('linear', ['otherwise' => $otherwise])->fit(new Task(
            self::table(),
            ['size', 'x'],
            range(0.0, 8.0),
            range(0, 8),
            null,
            null,
        ));
    }

    public function testAColonInANameIsPartOfIt(): void
    {
        self::assertSame(
            ['at: home' => 'ordered', 'b' => 'target mean'],
            Readings::of([
                'missing' => 'leave the row out',
                'coding' => 'reference',
                'otherwise' => 'at: home: ordered, b:target mean,',
                'rare' => 0,
            ])->otherwise,
        );
    }
}
