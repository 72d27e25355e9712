<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Guide;

use Dokimos\Core\Guide\Idea;
use Dokimos\Core\Guide\Ideas;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Random;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class IdeasTest extends TestCase
{
    private const ROWS = 800;

    /** @return array{Table, list<float>} a table of every kind, and uniform draws for each row */
    private static function table(): array
    {
        $random = Random::stream(21, 'ideas');
        $whole = static fn (int $most): array => array_map(static fn (): int => $random->getInt(0, $most), range(1, self::ROWS));
        $numbers = static fn (int $most): array => array_map(static fn (int $v): float => $v / 10, $whole($most));

        return [Table::of([
            'slot' => new CodedColumn($whole(3), ['a', 'b', 'c', 'd'], Kind::Category),
            'called' => new CodedColumn($whole(1), ['no', 'yes'], Kind::YesNo),
            'kilometers "far"' => new NumberColumn($numbers(300)),
            'age' => new NumberColumn($numbers(300)),
            'cost' => new NumberColumn($numbers(900)),
            'constant' => new NumberColumn(array_fill(0, self::ROWS, 3.0)),
        ], self::ROWS), array_map(static fn (int $v): float => $v / 1000, $whole(1000))];
    }

    /** @return iterable<string, array{\Closure(array<string, mixed>): float, list<string>, string}> what is left over, of which columns, and how it is said */
    public static function leftOver(): iterable
    {
        yield 'two categories' => [
            static fn (array $r): float => ($r['slot'] > 1) === (1 === $r['called']) ? 0.5 : -0.5,
            ['slot', 'called'],
            'slot and called together',
        ];
        yield 'a category above a bound' => [
            static fn (array $r): float => $r['age'] > 15 ? [0.6, -0.6, 0.6, -0.6][$r['slot']] : [-0.2, 0.2, -0.2, 0.2][$r['slot']],
            ['age', 'slot'],
            'slot where age is over',
        ];
        yield 'a ratio' => [
            static fn (array $r): float => $r['age'] > 0 && $r['cost'] / $r['age'] > 3.0 ? 0.5 : -0.4,
            ['age', 'cost'],
            'ratio of',
        ];
        yield 'a product' => [static fn (array $r): float => $r['age'] * $r['cost'] > 500 ? 0.6 : -0.6, ['age', 'cost'], 'product of'];
    }

    /**
     * @param \Closure(array<string, mixed>): float $truth
     * @param list<string>                          $of
     */
    #[DataProvider('leftOver')]
    public function testWhatIsLeftOverIsThoughtOfAndItsStepsCanBeDone(\Closure $truth, array $of, string $says): void
    {
        [$table, $noise] = self::table();
        $rows = range(0, self::ROWS - 1);
        $residual = array_map(static function (int $i) use ($table, $truth, $noise): float {
            $slot = $table->column('slot');
            $called = $table->column('called');
            \assert($slot instanceof CodedColumn && $called instanceof CodedColumn);

            return $truth([
                'slot' => $slot->codes[$i],
                'called' => $called->codes[$i],
                'age' => $table->number('age')->values[$i],
                'cost' => $table->number('cost')->values[$i],
            ]) + $noise[$i] - 0.5;
        }, $rows);
        $names = ['slot', 'called', 'age', 'cost', 'constant'];
        $ideas = Ideas::ofPairs($table, $names, $rows, [$residual], [], 3);
        self::assertNotEmpty($ideas);
        self::assertEqualsCanonicalizing($of, $ideas[0]->of);
        self::assertStringContainsString($says, $ideas[0]->from);
        $prepared = Preparation::fromArray($ideas[0]->steps)->fit(
            $table,
            $rows,
            array_map(static fn (float $r): float => $r > 0 ? 1.0 : 0.0, $residual),
        );
        self::assertTrue($prepared->learned?->table->has($ideas[0]->name));
        // What was weighed before is not thought of again.
        $again = Ideas::ofPairs($table, $names, $rows, [$residual], [$ideas[0]->name], 3);
        self::assertNotContains($ideas[0]->name, array_map(static fn (Idea $i): string => $i->name, $again));
    }

    public function testNoiseLeavesLittleToThinkOf(): void
    {
        [$table, $noise] = self::table();
        $residual = array_map(static fn (float $v): float => $v - 0.5, $noise);
        self::assertLessThanOrEqual(2, \count(Ideas::ofPairs($table, $table->names(), range(0, self::ROWS - 1), [$residual], [], 10)));
    }

    public function testANameThatAFormulaCannotHoldIsPassedOver(): void
    {
        [$table, $noise] = self::table();
        $slot = $table->column('slot');
        \assert($slot instanceof CodedColumn);
        $km = $table->number('kilometers "far"')->values;
        $residual = array_map(
            static fn (int $i): float => ($km[$i] > 15 ? 1 : -1) * [0.5, -0.5, 0.5, -0.5][$slot->codes[$i]] + $noise[$i] - 0.5,
            range(0, self::ROWS - 1),
        );
        self::assertSame([], Ideas::ofPairs($table, ['slot', 'kilometers "far"'], range(0, self::ROWS - 1), [$residual], [], 5));
    }

    public function testSingleColumnsAreTreatedByTheirKind(): void
    {
        $lines = ['day,note,code,kind,miles'];
        for ($i = 0; $i < 120; ++$i) {
            $lines[] = \sprintf(
                '2026-0%d-1%d,"gate %d is shut, ring twice",K%d,%s,%s',
                1 + $i % 9,
                $i % 9,
                $i,
                $i % 60,
                ['x', 'y'][$i % 2],
                0 === $i % 8 ? '' : (string) ($i % 31),
            );
        }
        $table = Files::ofText(implode("\n", $lines)."\n", ['note' => Kind::Text, 'code' => Kind::Category]);
        $ideas = Ideas::ofSingles($table, $table->names(), range(0, 119));
        self::assertSame(
            [
                'month and weekday of day',
                'the words of note',
                'rare values of code taken together',
                'missing cells of miles filled by what the other columns say of them',
            ],
            array_map(static fn (Idea $i): string => $i->from, $ideas),
        );
        foreach ($ideas as $idea) {
            self::assertNotNull(Preparation::fromArray($idea->steps)->fit($table, range(0, 119))->learned);
        }
    }
}
