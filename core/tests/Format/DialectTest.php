<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\DialectSniffer;
use Dokimos\Core\Format\NoFrames;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** How a file is written: recognized, stated, and kept to when writing. */
final class DialectTest extends TestCase
{
    /** @return iterable<string, array{string, array<string, mixed>}> */
    public static function samples(): iterable
    {
        yield 'commas' => ["a,b,c\n1,2,3\n", ['delimiter' => ',', 'decimal' => '.', 'header' => true]];
        yield 'semicolons with decimal commas' => ["a;b\n1,5;x\n2,5;y\n", ['delimiter' => ';', 'decimal' => ',']];
        yield 'semicolons with decimal points' => ["a;b\n1.5;x\n2.5;y\n", ['delimiter' => ';', 'decimal' => '.']];
        yield 'tabs' => ["a\tb\n1\t2\n", ['delimiter' => "\t"]];
        yield 'bars' => ["a|b\n1|2\n", ['delimiter' => '|']];
        yield 'commas inside quotes do not count' => ["a;b\n\"x, y, z\";1\n\"p, q\";2\n", ['delimiter' => ';']];
        yield 'one column' => ["a\n1\n2\n", ['delimiter' => ',']];
        yield 'a header of numbers is none' => ["1,2\n3,4\n5,6\n", ['header' => false]];
        yield 'names over numbers' => ["x,y\n3,4\n5,6\n", ['header' => true]];
        yield 'years as names over numbers' => ["place,2023,2024,km\nhere,1,2,3\nthere,4,5,6\n", ['header' => true]];
        yield 'text over text tells nothing' => ["V1,5\nV2,6\n", ['header' => false]];
        yield 'a missing code is no name' => ["NA,5\n3,6\n", ['header' => false]];
        yield 'names are all different' => ["x,2024,x\n1,2,3\n", ['header' => false]];
        yield 'UTF-8' => ["a,b\né,1\n", ['encoding' => 'UTF-8']];
        yield 'UTF-8 with a mark' => ["\xEF\xBB\xBFa,b\n1,2\n", ['encoding' => 'UTF-8']];
        yield 'UTF-16 little end first' => ["\xFF\xFE".mb_convert_encoding("a,b\n1,2\n", 'UTF-16LE', 'UTF-8'), ['encoding' => 'UTF-16LE']];
        yield 'UTF-16 big end first' => ["\xFE\xFF".mb_convert_encoding("a,b\n1,2\n", 'UTF-16BE', 'UTF-8'), ['encoding' => 'UTF-16BE']];
        yield 'Windows letters' => ["a,b\nna\xEFve \x80,1\n", ['encoding' => 'Windows-1252']];
        yield 'a fourteenth month tells that the month comes first' => ["a,b\n03/04/2026,1\n03/14/2026,2\n", ['dates' => 'month first']];
        yield 'a fourteenth day first tells the usual order' => ["a,b\n03/04/2026,1\n14/03/2026,2\n", ['dates' => 'day first']];
        yield 'dates in both orders are left as they are' => ["a,b\n03/14/2026,1\n14/03/2026,2\n", ['dates' => 'day first']];
        yield 'CR alone' => ["a,b\r1,2\r", ['carriageReturns' => true]];
        yield 'CRLF is not CR alone' => ["a,b\r\n1,2\r\n", ['carriageReturns' => false]];
    }

    /** @param array<string, mixed> $expected */
    #[DataProvider('samples')]
    public function testIsRecognized(string $bytes, array $expected): void
    {
        self::assertSame($expected, array_intersect_key(DialectSniffer::detect($bytes)->toArray(), $expected));
    }

    public function testAnEmptySampleIsSaidToBeEmpty(): void
    {
        $this->expectException(UnreadableTable::class);
        DialectSniffer::detect("\n \n");
    }

    public function testIsStoredAndReadBack(): void
    {
        $dialect = new Dialect('Windows-1252', ';', "'", ',', false, true, 3, '#', ['', '-99', 'k.A.'], ' ');
        self::assertEquals($dialect, Dialect::fromArray($dialect->toArray()));
        self::assertEquals(new Dialect(), Dialect::fromArray([]), 'what is not said is the usual');
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function impossible(): iterable
    {
        yield 'encoding' => [['encoding' => 'EBCDIC'], 'The encoding "EBCDIC" is not known'];
        yield 'long delimiter' => [['delimiter' => '||'], 'one character'];
        yield 'no delimiter' => [['delimiter' => ''], 'one character'];
        yield 'the quote as delimiter' => [['delimiter' => '"'], 'not the quote mark'];
        yield 'quote mark' => [['quote' => '`'], 'The quote mark is'];
        yield 'lines skipped' => [['skip' => -1], 'Between 0 and 1000 lines'];
        yield 'too many lines skipped' => [['skip' => 5000], 'Between 0 and 1000 lines'];
        yield 'a comment like the delimiter' => [['comment' => ','], 'none of them the delimiter'];
        yield 'a long comment mark' => [['comment' => 'REMARK'], 'one to four letters'];
        yield 'thousands mark' => [['thousands' => '_'], 'a blank or an apostrophe'];
        yield 'decimal mark' => [['decimal' => ';'], 'a point or a comma'];
    }

    /** @param array<string, mixed> $data */
    #[DataProvider('impossible')]
    public function testImpossibleOnesAreRefused(array $data, string $says): void
    {
        $this->expectException(\InvalidArgumentException::class);
        $this->expectExceptionMessage($says);
        Dialect::fromArray($data);
    }

    /** @return iterable<string, array{string, array<string, mixed>, list<string>, array<string, list<?string>>}> file, corrections, names, cells */
    public static function corrected(): iterable
    {
        yield 'lines above the header' => [
            "Report of March\n\"odd, quote\nkm,day\n5,2026-01-01\n7,2026-01-02\n",
            ['skip' => 2],
            ['km', 'day'],
            ['km' => ['5', '7'], 'day' => ['2026-01-01', '2026-01-02']],
        ];
        yield 'comments between records' => [
            "# made by a program\na,b\n1,x\n# half way\n2,y\n#end\n",
            ['comment' => '#'],
            ['a', 'b'],
            ['a' => ['1', '2'], 'b' => ['x', 'y']],
        ];
        yield 'a comment mark inside quotes is text' => [
            "a,b\n1,\"two\n# lines\"\n",
            ['comment' => '#'],
            ['a', 'b'],
            ['b' => ["two\n# lines"]],
        ];
        yield 'one column with comments' => ["a\n1\n#no\n\n2\n", ['comment' => '#'], ['a'], ['a' => ['1', null, '2']]];
        yield 'own marks for missing' => [
            "a,b\n-99,k.A.\n5,x\n,NA\n",
            ['missing' => ['-99', 'k.A.']],
            ['a', 'b'],
            ['a' => [null, '5', null], 'b' => [null, 'x', 'NA']],
        ];
        yield 'apostrophes as quotes' => ["a,b\n'x, y',1\n'it''s',2\n", ['quote' => "'"], ['a', 'b'], ['a' => ['x, y', "it's"]]];
        yield 'blanks between thousands' => [
            "a;b\n1 234,5;x\n12 000;y\n-7 654 321;z\n",
            ['delimiter' => ';', 'decimal' => ',', 'thousands' => ' '],
            ['a', 'b'],
            ['a' => ['1234.5', '12000', '-7654321']],
        ];
        yield 'no-break blanks between thousands' => [
            "a;b\n1\u{202F}234;x\n12\u{A0}000;y\n",
            ['delimiter' => ';', 'thousands' => ' '],
            ['a', 'b'],
            ['a' => ['1234', '12000']],
        ];
        yield 'apostrophes between thousands' => [
            "a,b\n1'234.5,x\n99'000,y\n",
            ['thousands' => "'"],
            ['a', 'b'],
            ['a' => ['1234.5', '99000']],
        ];
        yield 'blanks that group nothing stay text' => [
            "a,b\n1 23,x\n12 0000,y\n",
            ['thousands' => ' '],
            ['a', 'b'],
            ['a' => ['1 23', '12 0000']],
        ];
        yield 'everything at once' => [
            "export\n%note\nwhen;how much;what\n%more\n14.03.2026;1 234,5;'a;b'\n15.03.2026;?;'c'\n",
            ['delimiter' => ';', 'decimal' => ',', 'quote' => "'", 'skip' => 1, 'comment' => '%', 'missing' => ['?'], 'thousands' => ' '],
            ['when', 'how much', 'what'],
            ['when' => ['2026-03-14', '2026-03-15'], 'how much' => ['1234.5', null], 'what' => ['a;b', 'c']],
        ];
    }

    /**
     * @param array<string, mixed>         $corrections
     * @param list<string>                 $names
     * @param array<string, list<?string>> $cells
     */
    #[DataProvider('corrected')]
    public function testAFileIsReadAsItIsCorrected(string $bytes, array $corrections, array $names, array $cells): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'dokimos');
        file_put_contents($file, $bytes);
        try {
            $table = (new CsvFile($file))->read([], Dialect::fromArray($corrections))[0];
        } finally {
            unlink($file);
        }
        self::assertSame($names, $table->names());
        foreach ($cells as $name => $expected) {
            self::assertSame($expected, array_map($table->column($name)->text(...), range(0, $table->rows - 1)), $name);
        }
    }

    /** @return iterable<string, array{?string, string}> */
    public static function cells(): iterable
    {
        foreach ([
            ['plain', 'plain'], [null, ''], ['', ''], ['a,b', '"a,b"'], ['say "x"', '"say ""x"""'], ["two\nlines", "\"two\nlines\""], [' edge', '" edge"'], ['edge ', '"edge "'],
            ['=1+1', "'=1+1"], ['+cmd', "'+cmd"], ['@x', "'@x"], ['-x', "'-x"], ['-5', '-5'], ['+5', '+5'], ['-1.5e3', '-1.5e3'], ["\tx", "'\tx"], ['=a,b', "\"'=a,b\""], ['a=b', 'a=b'],
        ] as [$cell, $written]) {
            yield json_encode($cell, \JSON_THROW_ON_ERROR) => [$cell, $written];
        }
    }

    #[DataProvider('cells')]
    public function testCellsAreWrittenSoThatNoSpreadsheetRunsThem(?string $cell, string $written): void
    {
        self::assertSame($written."\r\n", CsvWriter::line([$cell]));
    }

    /** @return iterable<string, array{Kind, list<?string>}> */
    public static function conversions(): iterable
    {
        $cells = ['1', '2.5', null, 'x', '2026-01-02', 'yes', '0417', ' 7 '];
        yield 'number' => [Kind::Number, ['1', '2.5', null, null, null, null, null, '7']];
        yield 'date' => [Kind::Date, [null, null, null, null, '2026-01-02', null, null, null]];
        yield 'category' => [Kind::Category, $cells];
        yield 'yes/no' => [Kind::YesNo, $cells];
        yield 'identifier' => [Kind::Identifier, $cells];
    }

    /** @param list<?string> $expected */
    #[DataProvider('conversions')]
    public function testAColumnTakesAnotherKind(Kind $kind, array $expected): void
    {
        $column = Conversion::to(new TextColumn(['1', '2.5', null, 'x', '2026-01-02', 'yes', '0417', ' 7 ']), $kind);
        self::assertSame($kind, $column->kind());
        self::assertSame($expected, array_map($column->text(...), range(0, 7)));
        self::assertSame($column, Conversion::to($column, $kind), 'nothing to do');
    }

    public function testAColumnThatIsNotThereIsMissingThroughout(): void
    {
        foreach (Kind::cases() as $kind) {
            $column = Conversion::missing($kind, 3);
            self::assertSame([$kind, 3, 3], [$column->kind(), $column->count(), $column->missing()]);
            self::assertSame(0, Conversion::missing($kind, 0)->count());
        }
    }

    public function testAFileThatCannotBeReadIsNamed(): void
    {
        $this->expectException(UnreadableTable::class);
        $this->expectExceptionMessage('The file gone.csv cannot be read');
        new CsvFile(sys_get_temp_dir().'/nowhere/gone.csv');
    }

    /** @return iterable<string, array{string, string, int, ?string}> */
    public static function amounts(): iterable
    {
        $rows = static fn (\Closure $row, string $top = "id;revenue;share\n"): string => $top.implode("\n", array_map($row, range(1, 60)))."\n";
        yield 'thousands by points, cents by commas' => [
            $rows(static fn (int $i): string => \sprintf('k%d;%d.%03d,%02d;%d', $i, 20 + $i, ($i * 37) % 1000, $i, $i)),
            ',',
            0,
            'number',
        ];
        yield 'whole thousands beside one column of cents' => [
            $rows(static fn (int $i): string => \sprintf('k%d;%d.%03d;0,%02d', $i, 20 + $i, ($i * 37) % 1000, $i)),
            ',',
            0,
            'number',
        ];
        yield 'points alone' => [$rows(static fn (int $i): string => \sprintf('k%d;%d.%02d;%d', $i, 20 + $i, $i, $i)), '.', 0, 'number'];
        yield 'currency signs' => [
            $rows(static fn (int $i): string => \sprintf('k%d;%d.%03d,%02d €;%d', $i, 20 + $i, ($i * 37) % 1000, $i, $i)),
            ',',
            0,
            'number',
        ];
        yield 'two titles above the header' => [
            $rows(
                static fn (int $i): string => \sprintf('k%d;%d,5;%d', $i, $i, $i),
                "Report of the year\nAll branches\nid;revenue;share\n",
            ),
            ',',
            2,
            'number',
        ];
        yield 'a title and an empty line' => [
            $rows(static fn (int $i): string => \sprintf('k%d;%d,5;%d', $i, $i, $i), "Report\n\nid;revenue;share\n"),
            ',',
            2,
            'number',
        ];
        yield 'no title, though the header has gaps' => [
            $rows(static fn (int $i): string => \sprintf('k%d;%d,5;%d', $i, $i, $i), "id;revenue;\n"),
            ',',
            0,
            'number',
        ];
    }

    #[DataProvider('amounts')]
    public function testBothMarksAreWeighedOverAllColumnsAndTitlesAreSeen(string $text, string $decimal, int $skip, string $kind): void
    {
        $dialect = DialectSniffer::detect($text);
        self::assertSame([';', $decimal, $skip, true], [$dialect->delimiter, $dialect->decimal, $dialect->skip, $dialect->header]);
        $table = (new TableImporter($dialect, new NoFrames()))->import(static fn (): array => [$text]);
        self::assertSame(['id', 'revenue'], \array_slice($table->names, 0, 2));
        self::assertSame([60, $kind], [$table->rows, $table->columns[1]->kind->value]);
    }

    public function testAmountsReadWithTheWrongMarkAreNoKey(): void
    {
        $text = "id;revenue\n".implode(
            "\n",
            array_map(static fn (int $i): string => \sprintf('k%d;%d.%03d,%02d', $i, 20 + $i, ($i * 37) % 1000, $i), range(1, 60)),
        )."\n";
        $table = (new TableImporter(new Dialect(delimiter: ';', decimal: '.'), new NoFrames()))->import(static fn (): array => [$text]);
        self::assertNotSame('identifier', $table->columns[1]->kind->value);
        self::assertSame('identifier', $table->columns[0]->kind->value);
    }

    public function testNamesInAngleBracketsAreNames(): void
    {
        self::assertSame(',', DialectSniffer::detect("<id>,<name>\n1,a\n2,b\n")->delimiter);
        $this->expectExceptionMessage('an XML document');
        DialectSniffer::detect("<rows>\n<row a=\"1\"/>\n</rows>\n");
    }
}
