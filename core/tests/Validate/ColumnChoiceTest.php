<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Tests\Files;
use Dokimos\Core\Validate\ColumnChoice;
use Dokimos\Core\Validate\TrialData;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ColumnChoiceTest extends TestCase
{
    /** @return iterable<string, array{?ColumnChoice, list<string>}> */
    public static function choices(): iterable
    {
        yield 'all' => [null, ['a', 'b', 'b_was_missing']];
        yield 'only some' => [new ColumnChoice(['b'], false), ['b']];
        yield 'all but one' => [new ColumnChoice(['a'], true), ['b', 'b_was_missing']];
        yield 'what was made alone' => [new ColumnChoice(['b_was_missing'], false), ['b_was_missing']];
        yield 'a name that is gone' => [new ColumnChoice(['gone'], true), ['a', 'b', 'b_was_missing']];
        yield 'a key stays one' => [new ColumnChoice(['key', 'a'], false), ['a']];
    }

    /** @param list<string> $expected */
    #[DataProvider('choices')]
    public function testIsOfWhatThePreparationOffersAndThePreparationRunsWhole(?ColumnChoice $choice, array $expected): void
    {
        $lines = ['a,b,key,y'];
        for ($i = 0; $i < 60; ++$i) {
            $lines[] = \sprintf('%d,%s,k%d,%d', $i % 7, 0 === $i % 5 ? '' : (string) ($i % 11), $i, $i % 2);
        }
        $table = Files::ofText(implode("\n", $lines)."\n");
        $y = $table->number('y')->values;
        $steps = Preparation::fromArray([['step' => 'fill_missing', 'columns' => ['b'], 'method' => 'median', 'mark' => true]]);
        $data = new TrialData($table, ['a', 'b'], $y, $steps, choice: $choice);
        $prepared = $data->prepared(range(0, 59));
        self::assertEqualsCanonicalizing($expected, $prepared->task->inputs);
        self::assertTrue($prepared->task->table->has('b_was_missing'));
        $model = (new Trying(
            $table,
            ['a', 'b'],
            $y,
            $steps,
            Learners::make('logistic', ['penalty' => 'ridge']),
            choice: $choice,
        ))->whole('y', '1');
        self::assertSame([], array_diff($model->model->columns(), $expected));
    }

    public function testIsKeptAndReadBack(): void
    {
        $choice = new ColumnChoice(['a', 'b c'], true);
        self::assertEquals($choice, ColumnChoice::fromArray($choice->toArray()));
        self::assertEquals(new ColumnChoice(['a'], false), ColumnChoice::fromArray(['names' => ['a', 7, null], 'without' => 'yes']));
        self::assertSame([false, true], [$choice->admits('a'), $choice->admits('d')]);
    }
}
