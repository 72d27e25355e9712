<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Findings;

use Dokimos\Core\Findings\PlainRule;
use Dokimos\Core\Findings\PlainRules;
use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use PHPUnit\Framework\TestCase;

/** Groups in plain words: planted ones are found and hold, noise does not pass for a rule. */
final class PlainRulesTest extends TestCase
{
    private static function subject(int $seed, bool $planted, int $rows = 3000): Subject
    {
        mt_srand($seed);
        $age = $class = $noise = $color = $event = [];
        for ($i = 0; $i < $rows; ++$i) {
            $age[] = mt_rand(0, 300) / 10;
            $class[] = ['a', 'b', 'c', 'd'][mt_rand(0, 3)];
            $noise[] = mt_rand(0, 1000) / 3;
            $color[] = ['red', 'green', 'blue'][mt_rand(0, 2)];
            $event[] = (float) (mt_rand() / mt_getrandmax() < ($planted && $age[$i] > 20 && 'b' === $class[$i] ? 0.7 : 0.15));
        }

        return new Subject(
            Table::of([
                'age' => new NumberColumn($age),
                'class' => CodedColumn::fromCells($class),
                'noise' => new NumberColumn($noise),
                'color' => CodedColumn::fromCells($color),
                'late' => new NumberColumn($event),
            ]),
            [],
            ['late'],
            'y',
            'yes',
            $event,
        );
    }

    public function testAPlantedGroupIsFoundInItsWordsAndHolds(): void
    {
        $rules = PlainRules::of(self::subject(1, true));
        $first = $rules[0];
        $columns = array_column($first->conditions, 'column');
        sort($columns);
        self::assertSame(['age', 'class'], $columns);
        $is = array_column($first->conditions, 'is', 'column');
        self::assertSame('b', $is['class']);
        self::assertMatchesRegularExpression('/^over (18|19|2[0-3])/', $is['age']);
        self::assertTrue($first->held);
        self::assertGreaterThan(0.4, $first->check->low);
        self::assertGreaterThan($first->overall, $first->check->value);
    }

    public function testFiguresAreThoseOfTheRecordsTheConditionsPickOut(): void
    {
        $subject = self::subject(2, true);
        foreach (PlainRules::of($subject) as $rule) {
            self::assertEqualsWithDelta($rule->foundRows, $rule->checkRows, 0.5 * $rule->foundRows);
            self::assertTrue($rule->check->low <= $rule->check->value && $rule->check->value <= $rule->check->high);
            self::assertSame(
                $rule->held,
                ($rule->found->value > $rule->overall) ? $rule->check->low > $rule->overall : $rule->check->high < $rule->overall,
            );
            self::assertLessThanOrEqual(2, \count($rule->conditions));
            foreach ($rule->conditions as $c) {
                self::assertContains($c['column'], ['age', 'class', 'noise', 'color'], 'what is known too late makes no rule');
            }
        }
    }

    public function testNoiseHardlyEverHolds(): void
    {
        $held = $all = 0;
        for ($seed = 10; $seed < 22; ++$seed) {
            foreach (PlainRules::of(self::subject($seed, false)) as $rule) {
                ++$all;
                $held += $rule->held ? 1 : 0;
            }
        }
        self::assertGreaterThan(40, $all, 'rules are found in noise: that is why they are checked');
        self::assertLessThan(0.1 * $all, $held);
    }

    public function testRulesAreNotTheSameGroupOverAgain(): void
    {
        $rules = PlainRules::of(self::subject(3, true));
        $written = array_map(static fn (PlainRule $r) => json_encode($r->conditions), $rules);
        self::assertSame(array_unique($written), $written);
        self::assertLessThanOrEqual(7, \count($rules));
    }

    public function testTooLittleDataGivesNoRules(): void
    {
        self::assertSame([], PlainRules::of(self::subject(4, true, 120)));
        $subject = self::subject(5, true);
        self::assertSame([], PlainRules::of(new Subject($subject->table)));
        self::assertSame([], PlainRules::of(new Subject($subject->table, [], ['late'], 'y', 'yes', array_fill(0, 3000, 0.0))));
        $aside = ['age' => ColumnUse::Aside, 'class' => ColumnUse::Aside, 'noise' => ColumnUse::Key, 'color' => ColumnUse::Aside];
        self::assertSame([], PlainRules::of(new Subject($subject->table, $aside, ['late'], 'y', 'yes', $subject->event)));
    }

    public function testTheSameDataGiveTheSameRules(): void
    {
        self::assertEquals(PlainRules::of(self::subject(6, true)), PlainRules::of(self::subject(6, true)));
    }
}
