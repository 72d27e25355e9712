<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Task;

use Dokimos\Core\Design\Reading;
use Dokimos\Core\Design\Term;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What is asked of a table: which rows can be learned from, and what stands behind a category. */
final class TaskTest extends TestCase
{
    private static function table(): Table
    {
        return Table::of([
            'x' => new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0]),
            'area' => CodedColumn::fromCells(['a', 'b', 'a', 'b', 'a', 'b', 'a', 'b']),
        ]);
    }

    public function testRowsWithAnOutcomeAndAWeightAreUsed(): void
    {
        $y = [1.0, \NAN, 0.0, \INF, 1.0, 0.0, 1.0, 0.0];
        $rows = [0, 1, 2, 3, 4, 6];
        self::assertSame([0, 2, 4, 6], (new Task(self::table(), ['x'], $y, $rows))->usable());
        $weights = [1.0, 1.0, 0.0, 1.0, 0.5, 1.0, -1.0, 1.0];
        self::assertSame([0, 4], (new Task(self::table(), ['x'], $y, $rows, $weights))->usable());
        $other = (new Task(self::table(), ['x'], $y, $rows, $weights))->on([5, 7, 2], ['area']);
        self::assertSame([[5, 7], ['area']], [$other->usable(), $other->inputs]);
    }

    public function testItsKindFollowsFromItsClasses(): void
    {
        foreach ([Task::NUMBER => null, Task::TWO => ['no', 'yes'], Task::MORE => ['a', 'b', 'c']] as $kind => $classes) {
            self::assertSame($kind, (new Task(self::table(), ['x'], array_fill(0, 8, 0.0), [0], null, $classes))->kind());
        }
    }

    public function testTheTargetHasAValueForEachRow(): void
    {
        $this->expectException(\LengthException::class);
        new Task(self::table(), ['x'], [1.0, 0.0], [0]);
    }

    /** @return iterable<string, array{?list<string>, list<float>, array<string, list<float>>}> classes, outcome, what stands for a and b */
    public static function outcomes(): iterable
    {
        // Each value is drawn to the mean of all by 20 records.
        $drawn = static fn (float $own, float $all): float => (4 * $own + 20 * $all) / 24;
        yield 'a number' => [null, [1.0, 5.0, 1.0, 5.0, 1.0, 5.0, 1.0, 5.0], ['area (mean outcome)' => [$drawn(1, 3), $drawn(5, 3)]]];
        yield 'an event' => [
            ['no', 'yes'],
            [1.0, 0.0, 1.0, 0.0, 1.0, 0.0, 0.0, 0.0],
            ['area (share of the event)' => [$drawn(0.75, 0.375), $drawn(0, 0.375)]],
        ];
        yield 'several classes: all but the first' => [['low', 'mid', 'high'], [0.0, 1.0, 2.0, 1.0, 2.0, 1.0, 0.0, 2.0], [
            'area (share of mid)' => [$drawn(0, 0.375), $drawn(0.75, 0.375)],
            'area (share of high)' => [$drawn(0.5, 0.375), $drawn(0.25, 0.375)],
        ]];
    }

    /**
     * @param ?list<string>              $classes
     * @param list<float>                $y
     * @param array<string, list<float>> $wanted
     */
    #[DataProvider('outcomes')]
    public function testACategoryIsReadByWhatComesOfIt(?array $classes, array $y, array $wanted): void
    {
        $task = new Task(self::table(), ['area'], $y, range(0, 7), null, $classes);
        $coding = $task->coding(range(0, 7), new Reading(otherwise: ['area' => Reading::MEANS]));
        self::assertSame(array_keys($wanted), array_map(static fn (Term $t): string => $t->name(), $coding->terms));
        foreach ($wanted as $name => $values) {
            self::assertEqualsWithDelta($values, $coding->sums(self::table(), [$name => 1.0], [0, 1]), 1e-12);
        }
    }
}
