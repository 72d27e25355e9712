<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\Free;
use Dokimos\Core\Explain\Likeness;
use Dokimos\Core\Explain\Reach;
use Dokimos\Core\Explain\Want;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** How far an answer is from what is wanted, and which values a column may take on the way there. */
final class WantTest extends TestCase
{
    /** @return iterable<string, array{Want, Answers, float}> */
    public static function wishes(): iterable
    {
        $chance = new Answers([0.3]);
        yield 'at least, reached' => [Want::between(0.3, null), $chance, 0.0];
        yield 'at least, short' => [Want::between(0.45, null), $chance, 0.15];
        yield 'at most, reached' => [Want::between(null, 0.3), $chance, 0.0];
        yield 'at most, above' => [Want::between(null, 0.1), $chance, 0.2];
        yield 'between, inside' => [Want::between(0.2, 0.4), $chance, 0.0];
        yield 'between, below' => [Want::between(0.5, 0.6), $chance, 0.2];
        yield 'between, above' => [Want::between(0.0, 0.25), $chance, 0.05];
        yield 'below nothing, of a number' => [Want::between(null, -5.0), new Answers([-2.0]), 3.0];
        yield 'no answer reaches nothing' => [Want::between(null, 1.0), new Answers([\NAN]), \INF];
        $classes = new Answers([0.2, 0.5, 0.3], 3);
        yield 'a class, reached' => [Want::ofClass(1), $classes, 0.0];
        yield 'a class, as far as it is behind the likeliest' => [Want::ofClass(0), $classes, 0.3];
        yield 'another class' => [Want::ofClass(2), $classes, 0.2];
        yield 'any but the likeliest: as far as it leads the next' => [Want::anyBut(1), $classes, 0.2];
        yield 'any but one that is not the likeliest' => [Want::anyBut(2), $classes, 0.0];
        yield 'no answer of classes' => [Want::ofClass(1), new Answers([\NAN, \NAN, \NAN], 3), \INF];
    }

    #[DataProvider('wishes')]
    public function testHowFarItIs(Want $want, Answers $answers, float $short): void
    {
        $told = $want->short($answers, 0);
        is_infinite($short) ? self::assertInfinite($told) : self::assertEqualsWithDelta($short, $told, 1e-8);
        // Where it is not reached it is never quite 0: a tie is not the class that was wanted.
        self::assertSame(0.0 === $short, 0.0 === $told);
    }

    public function testATieIsNotReached(): void
    {
        $tie = new Answers([0.4, 0.4, 0.2], 3);
        self::assertSame(0.0, Want::ofClass(0)->short($tie, 0));
        self::assertGreaterThan(0.0, Want::ofClass(1)->short($tie, 0));
        self::assertGreaterThan(0.0, Want::anyBut(0)->short($tie, 0));
    }

    /** @return iterable<string, array{Free, \Closure(float): bool}> the record has 10 */
    public static function free(): iterable
    {
        yield 'any way' => [new Free('x'), static fn (float $v): bool => true];
        yield 'only up' => [new Free('x', way: Free::UP), static fn (float $v): bool => $v > 10.0];
        yield 'only down' => [new Free('x', way: Free::DOWN), static fn (float $v): bool => $v < 10.0];
        yield 'within bounds' => [new Free('x', least: 4.0, most: 14.0), static fn (float $v): bool => $v >= 4.0 && $v <= 14.0];
        yield 'up, within bounds' => [new Free('x', most: 13.0, way: Free::UP), static fn (float $v): bool => $v > 10.0 && $v <= 13.0];
        yield 'by steps of three' => [new Free('x', step: 3.0), static fn (float $v): bool => 0.0 === fmod(abs($v - 10.0), 3.0)];
        yield 'down, by steps of four' => [
            new Free('x', way: Free::DOWN, step: 4.0),
            static fn (float $v): bool => $v < 10.0 && 0.0 === fmod(10.0 - $v, 4.0),
        ];
    }

    /** @param \Closure(float): bool $may */
    #[DataProvider('free')]
    public function testEveryAnswerKeepsToWhatAColumnMay(Free $free, \Closure $may): void
    {
        $seen = Table::of(['x' => new NumberColumn(array_map(floatval(...), range(0, 20)))]);
        $answers = static fn (Table $t): Answers => new Answers(array_map(
            static fn (float $v): float => abs($v - 10.0) / 10.0,
            $t->number('x')->values,
        ));
        $record = Table::of(['x' => new NumberColumn([10.0])]);
        // Whatever moves away from 10 is wanted, so that both ends would be taken where both may be.
        $told = (new Reach($answers, $record, $seen, [$free], new Likeness($seen)))->of(Want::between(0.2, null), 0.0);
        self::assertNotSame([], $told['found']);
        foreach ($told['found'] as $one) {
            $value = $one->changes['x'];
            self::assertIsFloat($value);
            self::assertTrue($may($value), "x to $value");
            self::assertNotSame(10.0, $value);
            self::assertSame(floor($value), $value, 'what was whole stays whole');
            self::assertGreaterThanOrEqual(0.2, $one->answer[0]);
        }
    }
}
