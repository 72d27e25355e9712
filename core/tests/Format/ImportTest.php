<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\MemoryFrames;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ImportTest extends TestCase
{
    /** @return iterable<string, array{list<string>, Kind}> */
    public static function guesses(): iterable
    {
        yield 'whole numbers' => [['1', '2', '-3', ''], Kind::Number];
        yield 'decimals, money, percent, parentheses' => [['1.5', '€ 20', '12%', '(3)', '1,234.5'], Kind::Number];
        yield 'codes with leading zeros' => [['0417', '0012', '0999'], Kind::Category];
        yield 'beyond 2^53' => [['9007199254740993', '12'], Kind::Category];
        yield 'ISO dates' => [['2026-03-14', '', '2025-01-01'], Kind::Date];
        yield 'day first' => [['14.03.2026', '01/02/2025'], Kind::Date];
        yield 'no such day' => [['2026-02-30', '2026-01-01'], Kind::Category];
        yield 'yes and no' => [['yes', 'No', 'YES', 'n/a'], Kind::Category];
        yield 'plain yes and no' => [['yes', 'no', 'yes'], Kind::YesNo];
        yield 'zero and one stay numbers' => [['0', '1', '1'], Kind::Number];
        yield 'few words' => [['red', 'blue', 'red'], Kind::Category];
        yield 'names of things' => [array_map(static fn (int $i) => 'V'.$i, range(1, 60)), Kind::Identifier];
        yield 'free words' => [array_map(static fn (int $i) => 'a note about thing number '.$i, range(1, 60)), Kind::Text];
        yield 'nothing at all' => [['', '', 'NA'], Kind::Number];
        yield 'infinity is no number' => [['1', 'inf', '2'], Kind::Category];
        yield 'hexadecimal is no number' => [['0x1A', '5'], Kind::Category];
    }

    /** @param list<string> $cells */
    #[DataProvider('guesses')]
    public function testKindsAreGuessedFromAllCells(array $cells, Kind $kind): void
    {
        $csv = "other,x\n".implode('', array_map(static fn (string $c) => '1,"'.$c."\"\n", $cells));
        self::assertSame($kind, Files::ofText($csv)->column('x')->kind());
    }

    public function testABeliefThatBreaksLateIsReadAgain(): void
    {
        $cells = [...array_fill(0, 9000, '5'), 'late', ...array_fill(0, 50, '6')];
        $column = Files::ofText("x\n".implode("\n", $cells)."\n")->column('x');
        self::assertSame(Kind::Category, $column->kind());
        self::assertSame(['5', 'late', '6'], [$column->text(0), $column->text(9000), $column->text(9001)]);
        $dates = [...array_fill(0, 5000, ''), ...array_fill(0, 5000, '2026-01-31')];
        $column = Files::ofText("y,x\n".implode("\n", array_map(static fn (string $d) => '1,'.$d, $dates))."\n")->column('x');
        self::assertSame(Kind::Date, $column->kind());
        self::assertSame([null, '2026-01-31'], [$column->text(4999), $column->text(5000)]);
    }

    public function testManyDifferentTextsAreKept(): void
    {
        $cells = array_map(static fn (int $i) => 'text number '.($i * 7919 % 30011), range(0, 30010));
        $column = Files::ofText("x\n".implode("\n", $cells)."\n")->column('x');
        self::assertSame(Kind::Text, $column->kind());
        for ($i = 0; $i < 30011; $i += 997) {
            self::assertSame($cells[$i], $column->text($i));
        }
    }

    public function testCellsThatDoNotFitAWantedKindAreListedWithTheirText(): void
    {
        $frames = new MemoryFrames();
        $imported = (new TableImporter(new Dialect(), $frames))->import(static fn () => ["x\n1\ntwo\n3\n\nNA\n"], ['x' => Kind::Number]);
        self::assertSame([[1, 'two']], $imported->columns[0]->misfits);
        self::assertSame(1, $imported->columns[0]->misfitCount);
        self::assertSame(3, $frames->table($imported)->column('x')->missing());
    }

    public function testDecimalCommasAreReadWhenToldSo(): void
    {
        $parser = new CellParser(',');
        foreach (['1,5' => 1.5, '1.234,5' => 1234.5, '-3' => -3.0, '(2,5)' => -2.5, '50 %' => 0.5] as $cell => $value) {
            self::assertSame($value, $parser->number((string) $cell), (string) $cell);
        }
        self::assertNull($parser->number('1.5'));
    }

    public function testFramesGiveBackWhatWentIn(): void
    {
        mt_srand(2);
        $lists = [
            [1.0, 2.0, \NAN, -3.0], [0.1, 0.25, 1e-7], [1e300, -1e300, 5e-324], [\M_PI, \M_E, \NAN], [19.99, 20.01, \NAN, 0.5], array_map(
                static fn () => mt_rand() / 7.3,
                range(1, 4096),
            ), [9007199254740991.0, 0.0], array_fill(0, 10, \NAN),
        ];
        foreach ($lists as $values) {
            $values = array_values($values);
            $back = FrameCodec::numbers(FrameCodec::packNumbers($values), \count($values));
            self::assertSame(array_map(strval(...), $values), array_map(strval(...), $back));
            foreach ($values as $i => $v) {
                self::assertTrue(is_nan($v) ? is_nan($back[$i]) : $v === $back[$i]);
            }
        }
        $texts = ['', null, 'é', str_repeat('x', 70000), "a\0b", null];
        self::assertSame($texts, FrameCodec::texts(FrameCodec::packTexts($texts), 6));
        $whole = [\PHP_INT_MIN, 0, 254, 255, 65535, -7, 1 << 40];
        self::assertSame($whole, FrameCodec::whole(FrameCodec::packWhole($whole), 7));
    }

    public function testADamagedFrameIsNoticed(): void
    {
        $this->expectException(\UnexpectedValueException::class);
        FrameCodec::numbers('rubbish', 3);
    }

    public function testConversionKeepsWhatFits(): void
    {
        $table = Files::ofText("x,y\n12,a\nn/a,b\n0417,c\nred,d\n");
        $numbers = Conversion::to($table->column('x'), Kind::Number);
        self::assertSame(['12', null, null, null], array_map($numbers->text(...), range(0, 3)));
        self::assertSame(4, Conversion::missing(Kind::Date, 4)->missing());
    }
}
