<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\GroupAtRisk;
use Dokimos\Core\Measure\GroupsAtRisk;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\CutOff;
use PHPUnit\Framework\TestCase;

/** A group that a cut-off serves worse is found, and equal ones are hardly ever said to differ. */
final class GroupsAtRiskTest extends TestCase
{
    /** @return list<GroupAtRisk> */
    private static function drawn(int $seed, int $rows, bool $planted): array
    {
        mt_srand($seed);
        $columns = array_fill_keys(['a', 'b', 'c'], []);
        $y = $p = [];
        for ($i = 0; $i < $rows; ++$i) {
            foreach (array_keys($columns) as $name) {
                $columns[$name][] = mt_rand(0, 3);
            }
            $chance = mt_rand(5, 60) / 100;
            $y[] = mt_rand(0, 9999) / 10000 < $chance ? 1.0 : 0.0;
            // For one group events are said half as often as they come.
            $p[] = $planted && 2 === $columns['b'][$i] ? $chance / 2 : $chance;
        }
        $levels = ['w', 'x', 'y', 'z'];

        return GroupsAtRisk::of(
            Table::of(array_map(static fn (array $c): CodedColumn => new CodedColumn($c, $levels, Kind::Category), $columns)),
            $y,
            $p,
            CutOff::at(0.3),
        );
    }

    public function testAPlantedGroupStandsFirst(): void
    {
        $groups = self::drawn(1, 6000, true);
        self::assertCount(12, $groups);
        self::assertSame(['b', 'y'], [$groups[0]->by, $groups[0]->name]);
        self::assertStringContainsString('caught of its events', implode(' ', $groups[0]->says));
        self::assertStringContainsString('said 16 in 100, came 3', implode(' ', $groups[0]->says));
        // The halved group pulls the whole down: that all are said too little is true, that fewer are caught holds for it alone.
        $caught = array_filter($groups, static fn (GroupAtRisk $g): bool => str_contains(implode(' ', $g->says), 'caught'));
        self::assertCount(1, $caught);
    }

    public function testEqualGroupsAreSeldomSaidToDiffer(): void
    {
        $fooled = 0;
        for ($seed = 1; $seed <= 120; ++$seed) {
            $fooled += [] === self::drawn($seed, 1500, false)[0]->says ? 0 : 1;
        }
        // Three kinds of statement at 5 % each, together; 18 of 120 are expected at most.
        self::assertLessThan(24, $fooled);
    }

    public function testFewRowsAndManyValuesSayNothing(): void
    {
        $few = new CodedColumn([0, 1, 0, 1], ['x', 'y'], Kind::Category);
        self::assertSame([], GroupsAtRisk::of(Table::of(['few' => $few]), [1.0, 0.0, 1.0, 0.0], [0.5, 0.5, 0.5, \NAN], CutOff::at(0.5)));
    }
}
