<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Findings;

use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Findings\TargetRelation;
use Dokimos\Core\Findings\TargetRelations;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\TestCase;

/** Columns ranked by what they tell, in words that match the data. */
final class TargetRelationsTest extends TestCase
{
    private static function subject(): Subject
    {
        mt_srand(31);
        $up = $down = $middle = $level = $noise = $day = $event = $text = [];
        for ($i = 0; $i < 2000; ++$i) {
            [$a, $b, $c] = [mt_rand(0, 1000) / 100, mt_rand(0, 1000) / 100, mt_rand(0, 1000) / 100];
            $l = ['low', 'high', 'some'][mt_rand(0, 2)];
            $z = -1.6 + 0.35 * ($a - 5) - 0.3 * ($b - 5) + (abs($c - 5) < 1.5 ? 1.5 : 0) + [
                'low' => -1.0,
                'high' => 1.2,
                'some' => 0.0,
            ][$l];
            $up[] = $a;
            $down[] = $b;
            $middle[] = $c;
            $level[] = $l;
            $noise[] = mt_rand(0, 100) / 7;
            $day[] = 1700000000 + 86400 * mt_rand(0, 300);
            $text[] = 'note '.mt_rand(0, 99);
            $event[] = (float) (mt_rand() / mt_getrandmax() < 1 / (1 + exp(-$z)));
        }
        $table = Table::of([
            'lead_time' => new NumberColumn($up), 'age' => new NumberColumn($down), 'middle' => new NumberColumn($middle), 'tier' => CodedColumn::fromCells($level), 'noise' => new NumberColumn($noise),
            'day' => new DateColumn($day), 'note' => new TextColumn($text), 'id' => new TextColumn($text, Kind::Identifier), '2024' => new NumberColumn($noise),
            'outcome' => CodedColumn::fromCells(array_map(
                static fn (float $e) => $e > 0.5 ? 'back' : 'fine',
                $event,
            )), 'aside' => new NumberColumn($up), 'target' => new NumberColumn($event),
        ]);

        return new Subject(
            $table,
            ['aside' => ColumnUse::Aside, 'id' => ColumnUse::Key, 'target' => ColumnUse::Target],
            ['outcome'],
            'target',
            'back',
            $event,
        );
    }

    /** @return array<array-key, TargetRelation> by column */
    private static function relations(): array
    {
        return array_column(array_map(static fn (TargetRelation $r) => [$r->column, $r], TargetRelations::of(self::subject())), 1, 0);
    }

    public function testTheStrongestComeFirstAndLateOnesAreMarked(): void
    {
        $relations = array_values(self::relations());
        $aucs = array_map(
            static fn (TargetRelation $r) => $r->strength?->alone,
            array_filter($relations, static fn (TargetRelation $r) => null !== $r->strength),
        );
        $sorted = $aucs;
        rsort($sorted);
        self::assertSame($sorted, array_values($aucs));
        self::assertSame(['outcome', true, null], [$relations[0]->column, $relations[0]->late, $relations[0]->adjusted]);
        self::assertNotContains('target', array_map(static fn (TargetRelation $r) => $r->column, $relations));
    }

    public function testDirectionsInWords(): void
    {
        $says = array_map(static fn (TargetRelation $r) => $r->says, self::relations());
        self::assertMatchesRegularExpression('/^rises: [\d.]+% up to 2(\.\d+)?, [\d.]+% above [78](\.\d+)?$/', $says['lead_time']);
        self::assertStringStartsWith('falls: ', $says['age']);
        self::assertMatchesRegularExpression('/^[\d.]+% from [34]\.\d+ to [56](\.\d+)?, /', $says['middle']);
        self::assertMatchesRegularExpression('/^[\d.]+% high, [\d.]+% low$/', $says['tier']);
        foreach (self::relations() as $r) {
            if ('' !== $r->says) {
                self::assertTrue($r->lowest < $r->highest && $r->lowest >= 0.0 && $r->highest <= 1.0, $r->column);
            }
        }
        self::assertSame(['', '', ''], [$says['noise'], $says['day'], $says[2024] ?? null], 'noise has no direction');
    }

    public function testWhatIsLeftOutSaysWhy(): void
    {
        $why = array_filter(array_map(static fn (TargetRelation $r) => $r->leftOut, self::relations()));
        self::assertSame(['note', 'id', 'aside'], array_keys($why));
        self::assertSame(['free text', 'a key'], [$why['note'], $why['id']]);
        self::assertSame('set aside', $why['aside']);
    }

    public function testPValuesAreAdjustedForTheColumnsThatMayServe(): void
    {
        foreach (self::relations() as $r) {
            if (null !== $r->adjusted) {
                self::assertGreaterThanOrEqual($r->strength?->p, $r->adjusted);
            }
        }
        self::assertLessThan(0.001, self::relations()['lead_time']->adjusted);
        self::assertGreaterThan(0.05, self::relations()['noise']->adjusted);
    }

    public function testWithoutATargetThereIsNothingToRank(): void
    {
        $subject = self::subject();
        self::assertSame([], TargetRelations::of(new Subject($subject->table)));
        $few = new Subject($subject->table->take([0, 1, 2]), [], [], 'target', 'back', [1.0, 0.0, 0.0]);
        self::assertContains(
            'too few records of either kind',
            array_map(static fn (TargetRelation $r) => $r->leftOut, TargetRelations::of($few)),
        );
    }
}
