<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\Free;
use Dokimos\Core\Explain\Likeness;
use Dokimos\Core\Explain\Reach;
use Dokimos\Core\Explain\Reached;
use Dokimos\Core\Explain\Want;
use Dokimos\Core\Random;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ReachTest extends TestCase
{
    private static function seen(): Table
    {
        $random = Random::stream(2, 'reach');
        $days = $years = $slot = $sent = [];
        for ($i = 0; $i < 400; ++$i) {
            $days[] = (float) $random->getInt(0, 20);
            $years[] = $random->getInt(0, 3000) / 100;
            $slot[] = $random->getInt(0, 3);
            $sent[] = $random->getInt(0, 1);
        }

        return Table::of([
            'days' => new NumberColumn($days), 'years' => new NumberColumn($years),
            'slot' => new CodedColumn($slot, ['early', 'noon', 'late', 'night'], Kind::Category),
            'sent' => new CodedColumn($sent, ['no', 'yes'], Kind::YesNo),
        ], 400);
    }

    /** Late bookings raise it, a reminder halves that; the slot matters a little, the years not at all. */
    private static function chances(Table $t): Answers
    {
        $out = [];
        for ($i = 0; $i < $t->rows; ++$i) {
            $late = $t->number('days')->values[$i] / 20;
            $z = -2 + 3 * $late * ('yes' === $t->column('sent')->text($i) ? 0.5 : 1.0) + ('night' === $t->column('slot')->text($i) ? 0.6 : 0.0);
            $out[] = 1 / (1 + exp(-$z));
        }

        return new Answers($out);
    }

    private static function record(): Table
    {
        return Table::of(
            [
                'days' => new NumberColumn([15.0]),
                'years' => new NumberColumn([12.25]),
                'slot' => CodedColumn::fromCells(['night']),
                'sent' => CodedColumn::fromCells(['no'], Kind::YesNo),
            ],
            1,
        );
    }

    /** @param list<Free> $free */
    private static function reach(array $free): Reach
    {
        return new Reach(self::chances(...), self::record(), self::seen(), $free, new Likeness(self::seen()));
    }

    /** @return iterable<string, array{list<Free>, Want, \Closure(Reached): bool}> */
    public static function questions(): iterable
    {
        $all = [new Free('days'), new Free('slot'), new Free('sent')];
        yield 'below a chance' => [$all, Want::between(null, 0.25), static fn (Reached $r): bool => $r->answer[0] <= 0.25];
        yield 'within a range' => [
            $all,
            Want::between(0.4, 0.5),
            static fn (Reached $r): bool => $r->answer[0] >= 0.4 && $r->answer[0] <= 0.5,
        ];
        yield 'only down, by twos' => [
            [new Free('days', 2, 15, Free::DOWN, 2.0), new Free('sent')], Want::between(null, 0.3),
            static fn (Reached $r): bool => !isset($r->changes['days']) || ($r->changes['days'] < 15 && $r->changes['days'] >= 2 && 0.0 === fmod(15 - (float) $r->changes['days'], 2)),
        ];
        yield 'allowed values' => [
            [new Free('slot', values: ['noon']), new Free('days')], Want::between(null, 0.3),
            static fn (Reached $r): bool => !isset($r->changes['slot']) || 'noon' === $r->changes['slot'],
        ];
        yield 'what was whole stays whole' => [
            $all,
            Want::between(0.1, 0.2),
            static fn (Reached $r): bool => !isset($r->changes['days']) || floor((float) $r->changes['days']) === $r->changes['days'],
        ];
    }

    /**
     * @param list<Free>              $free
     * @param \Closure(Reached): bool $holds
     */
    #[DataProvider('questions')]
    public function testWhatIsFoundReallyReachesAndKeepsTheRules(array $free, Want $want, \Closure $holds): void
    {
        $told = self::reach($free)->of($want, 0.05);
        self::assertNotSame([], $told['found']);
        self::assertEquals($told, self::reach($free)->of($want, 0.05), 'the same again');
        $cheaper = 0.0;
        foreach ($told['found'] as $one) {
            $table = self::record();
            foreach ($one->changes as $column => $value) {
                self::assertContains($column, array_map(static fn (Free $f): string => $f->column, $free), 'fixed columns never change');
                $table = $table->with($column, \is_float($value) ? new NumberColumn([$value]) : CodedColumn::fromCells([$value]));
            }
            $answer = self::chances($table);
            self::assertEqualsWithDelta($answer->values, $one->answer, 1e-12);
            self::assertSame([0.0, 0.0], [$one->short, $want->short($answer, 0)]);
            self::assertTrue($holds($one), (string) json_encode($one->changes));
            self::assertGreaterThanOrEqual(0.05, $one->likeness);
            self::assertGreaterThanOrEqual($cheaper, $one->cost);
            $cheaper = $one->cost;
            // Nothing in it that is not needed.
            foreach (\count($one->changes) > 1 ? array_keys($one->changes) : [] as $column) {
                $back = $table->with($column, self::record()->column($column));
                self::assertGreaterThan(0.0, $want->short(self::chances($back), 0), "$column is needed");
            }
        }
        $sets = array_map(static fn (Reached $r): string => implode(',', array_keys($r->changes)), $told['found']);
        self::assertGreaterThan(1, \count(array_unique($sets)), 'unlike one another');
    }

    public function testADearColumnIsLeftAloneWhereAnotherWayIsThere(): void
    {
        $found = self::reach([new Free('days', cost: 10), new Free('sent'), new Free('slot')])->of(Want::between(null, 0.45), 0.0)['found'];
        self::assertArrayNotHasKey('days', $found[0]->changes);
    }

    public function testWhereNothingReachesTheNearestIsShown(): void
    {
        $told = self::reach([new Free('years'), new Free('slot')])->of(Want::between(null, 0.05), 0.0);
        self::assertSame([], $told['found']);
        self::assertNotNull($told['nearest']);
        self::assertNotSame('night', $told['nearest']->changes['slot'] ?? 'night');
        self::assertGreaterThan(0.0, $told['nearest']->short);
        $none = self::reach([])->of(Want::between(null, 0.05), 0.0);
        self::assertSame([[], []], [$none['found'], $none['nearest']?->changes]);
    }

    public function testClasses(): void
    {
        $f = static fn (Table $t): Answers => new Answers(array_merge(...array_map(static fn (?string $s): array => match ($s) {
            'early' => [0.6, 0.3, 0.1], 'noon' => [0.2, 0.7, 0.1], default => [0.1, 0.3, 0.6],
        }, array_map(static fn (int $i): ?string => $t->column('slot')->text($i), range(0, $t->rows - 1)))), 3);
        $reach = new Reach($f, self::record(), self::seen(), [new Free('slot')], new Likeness(self::seen()));
        self::assertSame(
            [['slot' => 'noon']],
            array_map(static fn (Reached $r): array => $r->changes, $reach->of(Want::ofClass(1), 0.0)['found']),
        );
        self::assertCount(2, $reach->of(Want::anyBut(2), 0.0)['found']);
        self::assertEqualsWithDelta(0.3, Want::ofClass(1)->short($f(self::record()), 0), 1e-6);
    }
}
