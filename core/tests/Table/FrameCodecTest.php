<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Table;

use Dokimos\Core\Table\ColumnAssembler;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What is stored comes back, bit for bit. */
final class FrameCodecTest extends TestCase
{
    /** @return iterable<string, array{list<float>, int}> values and the bytes that a cell may take before compression */
    public static function numbers(): iterable
    {
        yield 'small whole numbers' => [[1.0, 2.0, 250.0, 0.0], 1];
        yield 'whole numbers below zero' => [[-5.0, 5.0, \NAN, -120.0], 1];
        yield 'the widest that fits a byte' => [[0.0, 254.0, \NAN], 1];
        yield 'one more takes two' => [[0.0, 255.0, \NAN], 2];
        yield 'four bytes' => [[0.0, 70000.0], 4];
        yield 'eight bytes' => [[0.0, 4e12], 8];
        yield 'tenths' => [[0.1, 0.2, 0.7], 1];
        yield 'cents' => [[19.99, 5.01, \NAN], 2];
        yield 'thousandths' => [[0.001, 1.234], 2];
        yield 'not a short decimal' => [[1 / 3, \M_PI, \NAN], 8];
        yield 'huge' => [[1e300, -1e300, \NAN], 8];
        yield 'tiny' => [[1e-300, 5e-324], 8];
        yield 'nothing but missing' => [[\NAN, \NAN], 1];
        yield 'nothing' => [[], 1];
        yield 'beyond 2^53' => [[9.1e15, 1.0], 8];
    }

    /** @param list<float> $values */
    #[DataProvider('numbers')]
    public function testNumbers(array $values, int $bytes): void
    {
        $frame = FrameCodec::packNumbers($values);
        $back = FrameCodec::numbers($frame, \count($values));
        self::assertCount(\count($values), $back);
        foreach ($values as $i => $v) {
            is_nan($v) ? self::assertNan($back[$i]) : self::assertSame($v, $back[$i]);
        }
        self::assertLessThanOrEqual(11 + $bytes * \count($values), \strlen((string) gzinflate($frame)));
        self::assertFalse(FrameCodec::isText($frame));
    }

    public function testRandomDecimalsOfEveryLength(): void
    {
        mt_srand(8);
        for ($round = 0; $round < 60; ++$round) {
            $digits = mt_rand(0, 8);
            $values = [];
            for ($i = 0; $i < 200; ++$i) {
                $values[] = mt_rand(0, 9) > 8 ? \NAN : round((mt_rand() - 2 ** 30) / 10 ** mt_rand(0, 9), $digits);
            }
            $back = FrameCodec::numbers(FrameCodec::packNumbers($values), 200);
            self::assertSame(
                array_map(static fn (float $v) => pack('e', is_nan($v) ? \NAN : $v + 0.0), $values),
                array_map(static fn (float $v) => pack('e', is_nan($v) ? \NAN : $v), $back),
                "$digits digits",
            );
        }
    }

    public function testMappedCellsAreStoredLikePlainOnes(): void
    {
        $cells = ['a', 'b', 'a', 'c', 'a'];
        $join = static fn (array $bytes): string => implode('', array_map(static fn (string $c) => $bytes[$c], $cells));
        foreach ([
            ['a' => 1.0, 'b' => 2.0, 'c' => \NAN],
            ['a' => 0.5, 'b' => 70000.25, 'c' => -3.0],
            ['a' => 1 / 3, 'b' => 2 / 3, 'c' => 1.0],
        ] as $values) {
            $plain = FrameCodec::packNumbers(array_map(static fn (string $c) => $values[$c], $cells));
            self::assertSame($plain, FrameCodec::packMappedNumbers($join, $values));
        }
        $codes = ['a' => 0, 'b' => 300, 'c' => \PHP_INT_MIN];
        self::assertSame(
            FrameCodec::packWhole(array_map(static fn (string $c) => $codes[$c], $cells)),
            FrameCodec::packMapped($join, $codes),
        );
    }

    public function testTexts(): void
    {
        mt_srand(2);
        $cells = ['', null, 'plain', "two\nlines", 'é日本', str_repeat('long ', 5000), "\0"];
        for ($i = 0; $i < 300; ++$i) {
            $cells[] = mt_rand(0, 5) > 4 ? null : bin2hex(random_bytes(mt_rand(1, 12)));
        }
        $frame = FrameCodec::packTexts($cells);
        self::assertSame($cells, FrameCodec::texts($frame, \count($cells)));
        self::assertTrue(FrameCodec::isText($frame));
    }

    /** @return iterable<string, array{\Closure(): mixed, string}> */
    public static function damaged(): iterable
    {
        $whole = FrameCodec::packWhole([1, 2, 3]);
        yield 'cut off' => [static fn () => FrameCodec::whole(substr($whole, 0, 6), 3), 'damaged'];
        yield 'something else' => [static fn () => FrameCodec::numbers('hello', 3), 'damaged'];
        yield 'empty' => [static fn () => FrameCodec::texts('', 0), 'damaged'];
        yield 'too few cells' => [static fn () => FrameCodec::whole($whole, 4), '3 cells where 4 are expected'];
        yield 'too many cells' => [static fn () => FrameCodec::numbers($whole, 2), '3 cells where 2 are expected'];
    }

    /** @param \Closure(): mixed $read */
    #[DataProvider('damaged')]
    public function testDamageIsNoticed(\Closure $read, string $says): void
    {
        $this->expectException(\UnexpectedValueException::class);
        $this->expectExceptionMessage($says);
        $read();
    }

    /** @return iterable<string, array{Kind, list<array{string, int}>, list<string>, list<?string>}> */
    public static function assembled(): iterable
    {
        yield 'numbers of two frames' => [
            Kind::Number,
            [[FrameCodec::packNumbers([1.5, \NAN]), 2], [FrameCodec::packNumbers([7.0]), 1]],
            [],
            ['1.5', null, '7'],
        ];
        yield 'dates' => [Kind::Date, [[FrameCodec::packWhole([0, \PHP_INT_MIN]), 2]], [], ['1970-01-01', null]];
        yield 'codes' => [
            Kind::Category,
            [[FrameCodec::packWhole([1, 0]), 2], [FrameCodec::packWhole([\PHP_INT_MIN]), 1]],
            ['x', 'y'],
            ['y', 'x', null],
        ];
        yield 'text, first as codes, then plain' => [
            Kind::Text,
            [[FrameCodec::packWhole([0, \PHP_INT_MIN]), 2], [FrameCodec::packTexts(['new', null]), 2]],
            ['old'],
            ['old', null, 'new', null],
        ];
        yield 'identifiers' => [Kind::Identifier, [[FrameCodec::packTexts(['V1']), 1]], [], ['V1']];
        yield 'no frame at all' => [Kind::Number, [], [], []];
    }

    /**
     * @param list<array{string, int}> $frames
     * @param list<string>             $levels
     * @param list<?string>            $texts
     */
    #[DataProvider('assembled')]
    public function testFramesBecomeAColumn(Kind $kind, array $frames, array $levels, array $texts): void
    {
        $column = ColumnAssembler::assemble($kind, $frames, $levels);
        self::assertSame($kind, $column->kind());
        self::assertSame($texts, [] === $texts ? [] : array_map($column->text(...), range(0, \count($texts) - 1)));
    }
}
