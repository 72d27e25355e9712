<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Findings;

use Dokimos\Core\Findings\Finder;
use Dokimos\Core\Findings\Finding;
use Dokimos\Core\Findings\Outcome\ClassOutcome;
use Dokimos\Core\Findings\Outcome\EventOutcome;
use Dokimos\Core\Findings\Outcome\NumberOutcome;
use Dokimos\Core\Findings\Outcome\Outcome;
use Dokimos\Core\Findings\PlainRules;
use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Findings\TargetRelation;
use Dokimos\Core\Findings\TargetRelations;
use Dokimos\Core\Findings\TargetStrength;
use Dokimos\Core\Findings\Thresholds;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What goes with a number or with several classes is told as what goes with an event is: ranked, with direction and rules that are checked. */
final class OutcomeTest extends TestCase
{
    private const ROWS = 2400;

    /** @return array{Table, list<float>, list<float>} inputs, a number that rises with up and is high for b above 20, and classes that follow up */
    private static function drawn(int $seed, bool $planted = true): array
    {
        mt_srand($seed);
        $share = static fn (): float => mt_rand() / mt_getrandmax();
        $up = $tier = $noise = $empty = $number = $classes = [];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $up[] = mt_rand(0, 300) / 10;
            $tier[] = ['a', 'b', 'c', 'd'][mt_rand(0, 3)];
            $noise[] = $share() < 0.9 ? 0.0 : -40 * log(1 - $share());
            $empty[] = $share() < 0.3 ? \NAN : $share();
            $told = $planted ? 0.05 * $up[$i] + ($up[$i] > 20 && 'b' === $tier[$i] ? 3.0 : 0.0) : 0.0;
            $number[] = exp(0.3 * ($told + 2 * $share() - 1));
            $classes[] = (float) ($share() < ($planted ? 0.15 + 0.02 * $up[$i] : 0.4) ? 2 : ($share() < 0.7 ? 0 : 1));
        }

        return [
            Table::of([
                'up' => new NumberColumn($up),
                'tier' => CodedColumn::fromCells($tier),
                'noise' => new NumberColumn($noise),
                'gaps' => new NumberColumn($empty),
            ]),
            $number,
            $classes,
        ];
    }

    private static function asked(int $seed, string $of, bool $planted = true): Subject
    {
        [$table, $number, $classes] = self::drawn($seed, $planted);

        return new Subject(
            $table,
            [],
            [],
            'y',
            asked: 'number' === $of ? new NumberOutcome($number) : new ClassOutcome($classes, ['heat', 'leak', 'noise']),
        );
    }

    /** @return iterable<string, array{string, string}> */
    public static function kinds(): iterable
    {
        yield 'a number' => ['number', ''];
        yield 'classes' => ['classes', '“noise” '];
    }

    #[DataProvider('kinds')]
    public function testColumnsAreRankedWithTheirDirection(string $of, string $before): void
    {
        $relations = array_column(
            array_map(static fn (TargetRelation $r): array => [$r->column, $r], TargetRelations::of(self::asked(3, $of))),
            1,
            0,
        );
        self::assertSame('up', array_key_first($relations));
        // Counted anew: the means below and above the edges that the sentence names.
        self::assertSame(
            1,
            preg_match('/^'.$before.'rises: ([\d.]+)%? up to ([\d.]+), ([\d.]+)%? above ([\d.]+)$/u', $relations['up']->says, $said),
            $relations['up']->says,
        );
        [$table, $number, $classes] = self::drawn(3);
        $told = 'number' === $of ? $number : array_map(static fn (float $c): float => 2.0 === $c ? 100.0 : 0.0, $classes);
        $mean = static fn (callable $in): float => ($v = array_intersect_key(
            $told,
            array_filter($table->number('up')->values, $in),
        )) ? array_sum($v) / \count($v) : \NAN;
        self::assertEqualsWithDelta($mean(static fn (float $v): bool => $v <= (float) $said[2] + 1e-9), (float) $said[1], 0.051);
        self::assertEqualsWithDelta($mean(static fn (float $v): bool => $v > (float) $said[4] + 1e-9), (float) $said[3], 0.051);
        self::assertLessThan($relations['up']->highest, $relations['up']->lowest);
        self::assertGreaterThan(0.6, $relations['up']->strength?->low);
        foreach (['noise', 'gaps'] as $silent) {
            self::assertSame('', $relations[$silent]->says);
            self::assertGreaterThan(0.05, $relations[$silent]->adjusted);
            self::assertEqualsWithDelta(0.5, $relations[$silent]->strength?->alone, 0.04);
        }
    }

    #[DataProvider('kinds')]
    public function testRulesAreFoundOnOneHalfAndHoldOnTheOther(string $of, string $before): void
    {
        $rules = PlainRules::of(self::asked(4, $of));
        self::assertTrue($rules[0]->held);
        self::assertContains('up', array_column($rules[0]->conditions, 'column'));
        if ('number' === $of) {
            self::assertEqualsCanonicalizing(['up', 'tier'], array_column($rules[0]->conditions, 'column'));
            self::assertNull($rules[0]->of);
            self::assertGreaterThan($rules[0]->overall, $rules[0]->check->low);
        } else {
            self::assertSame(trim($before, '“” '), $rules[0]->of);
        }
        $held = $made = 0;
        foreach (range(10, 17) as $seed) {
            foreach (PlainRules::of(self::asked($seed, $of, false)) as $rule) {
                ++$made;
                $held += $rule->held ? 1 : 0;
            }
        }
        self::assertGreaterThan(20, $made);
        self::assertLessThan(0.12 * $made, $held, 'on pure noise hardly any rule holds');
    }

    /** @return iterable<string, array{Outcome}> */
    public static function few(): iterable
    {
        yield 'a number of few rows' => [new NumberOutcome([...array_fill(0, 30, 1.0), ...array_fill(0, 70, \NAN), 2.0])];
        yield 'one number only' => [new NumberOutcome(array_fill(0, 101, 3.0))];
        yield 'one class only' => [new ClassOutcome([...array_fill(0, 96, 1.0), 0.0, 0.0, 2.0, \NAN, \NAN], ['a', 'b', 'c'])];
        yield 'no class' => [new ClassOutcome(array_fill(0, 101, \NAN), [])];
        yield 'an event of few' => [new EventOutcome([...array_fill(0, 95, 0.0), ...array_fill(0, 6, 1.0)])];
    }

    #[DataProvider('few')]
    public function testOfTooLittleNothingIsSaid(Outcome $outcome): void
    {
        $table = Table::of(['x' => new NumberColumn(array_map(floatval(...), range(0, 100)))]);
        self::assertNull($outcome->halves());
        self::assertNull(TargetStrength::of($table->column('x'), $outcome));
        $subject = new Subject($table, [], [], 'y', asked: $outcome);
        self::assertSame([], PlainRules::of($subject));
        self::assertSame(
            ['too few records', null],
            [TargetRelations::of($subject)[0]->leftOut, TargetRelations::of($subject)[0]->strength],
        );
    }

    public function testHalvesHaveTheSameSpreadAndShareNoRow(): void
    {
        [, $number, $classes] = self::drawn(5);
        foreach ([new NumberOutcome($number), new ClassOutcome($classes, ['a', 'b', 'c'])] as $outcome) {
            [$one, $two] = $outcome->halves() ?? [[], []];
            self::assertCount(self::ROWS, array_unique([...$one, ...$two]));
            self::assertEqualsWithDelta($outcome->sums($one)[0] / \count($one), $outcome->sums($two)[0] / \count($two), 0.002);
        }
    }

    public function testAKeyWhoseNumbersAreAlikeIsFound(): void
    {
        mt_srand(8);
        $household = $number = $plain = [];
        for ($i = 0; $i < 600; ++$i) {
            $own = mt_rand(0, 100);
            for ($k = 0; $k < 3; ++$k) {
                $household[] = (float) (7919 * ($i + 13) % 100003);
                $number[] = $own + mt_rand(0, 60);
                $plain[] = (float) mt_rand(0, 60);
            }
        }
        foreach ([[$number, 1], [$plain, 0]] as [$outcome, $found]) {
            $subject = new Subject(
                Table::of(['household' => new NumberColumn($household)]),
                [],
                [],
                'y',
                asked: new NumberOutcome(array_map(floatval(...), $outcome)),
            );
            self::assertCount(
                $found,
                array_filter(
                    (new Finder(Thresholds::standard()))->of($subject),
                    static fn (Finding $f): bool => 'repeated keys' === $f->sort,
                ),
                'values that repeat, with outcomes alike or not',
            );
        }
    }
}
