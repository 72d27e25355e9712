<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CsvReader;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\DialectSniffer;
use Dokimos\Core\Format\UnreadableTable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class CsvReaderTest extends TestCase
{
    /** @return array{list<string>, list<list<string>>, list<string>} names, rows, repairs */
    private static function read(string $bytes, ?Dialect $dialect = null, int $block = 7): array
    {
        $reader = new CsvReader(str_split($bytes, max(1, $block)), $dialect ?? DialectSniffer::detect($bytes));
        $rows = [];
        foreach ($reader->batches(3) as $batch) {
            for ($i = 0; $i < $batch->rows; ++$i) {
                $rows[] = array_column($batch->columns, $i);
            }
        }

        return [$reader->names(), $rows, $reader->repairs()];
    }

    /** @return iterable<string, array{string, list<string>, list<list<string>>, list<string>}> */
    public static function readable(): iterable
    {
        yield 'plain' => ["a,b\n1,2\n3,4\n", ['a', 'b'], [['1', '2'], ['3', '4']], []];
        yield 'CRLF and no last line end' => ["a,b\r\n1,2\r\n3,4", ['a', 'b'], [['1', '2'], ['3', '4']], []];
        yield 'CR only' => ["a,b\r1,2\r3,4\r", ['a', 'b'], [['1', '2'], ['3', '4']], []];
        yield 'byte order mark' => ["\xEF\xBB\xBFa,b\n1,2\n", ['a', 'b'], [['1', '2']], []];
        yield 'quotes, commas and line ends inside' => [
            "a,b\n\"x, \"\"y\"\"\",\"two\nlines\"\n",
            ['a', 'b'],
            [['x, "y"', "two\nlines"]],
            [],
        ];
        yield 'a quote inside an unquoted field is a letter' => ["a,b\n5\" pipe,2\n", ['a', 'b'], [['5" pipe', '2']], []];
        yield 'text after a closing quote is kept' => ["a,b\n\"x\"y,2\n", ['a', 'b'], [['xy', '2']], []];
        yield 'an empty quoted field' => ["a,b\n\"\",2\n", ['a', 'b'], [['', '2']], []];
        yield 'a last empty field' => ["a,b\n1,\n", ['a', 'b'], [['1', '']], []];
        yield 'empty lines between' => ["a,b\n1,2\n\n3,4\n\n", ['a', 'b'], [['1', '2'], ['3', '4']], []];
        yield 'one column keeps its empty lines' => ["a\n1\n\n3\n", ['a'], [['1'], [''], ['3']], []];
        yield 'semicolons' => ["a;b\n1,5;2\n3,5;4\n", ['a', 'b'], [['1,5', '2'], ['3,5', '4']], []];
        yield 'tabs' => ["a\tb\n1\t2\n", ['a', 'b'], [['1', '2']], []];
        yield 'UTF-16 with mark' => ["\xFF\xFE".mb_convert_encoding("a,b\né,2\n", 'UTF-16LE', 'UTF-8'), ['a', 'b'], [['é', '2']], []];
        yield 'UTF-16 without mark' => [
            mb_convert_encoding("aa,bb\n11,22\n33,44\n", 'UTF-16BE', 'UTF-8'),
            ['aa', 'bb'],
            [['11', '22'], ['33', '44']],
            [],
        ];
        yield 'Windows letters' => ["a,b\ncaf\xE9,\x80 5\n", ['a', 'b'], [['café', '€ 5']], []];
        yield 'names twice and empty' => [
            "a,a,\n1,2,3\n",
            ['a', 'a_2', 'column_3'],
            [['1', '2', '3']],
            ['The name a stood twice; column 2 is called a_2.', 'Column 3 had no name and is called column_3.'],
        ];
        yield 'no header' => ["1,2\n3,4\n", ['column_1', 'column_2'], [['1', '2'], ['3', '4']], []];
        yield 'a short line' => [
            "a,b,c\n1,2,3\n4,5\n",
            ['a', 'b', 'c'],
            [['1', '2', '3'], ['4', '5', '']],
            ['Line 3 had 2 fields of 3; the last one is left missing.'],
        ];
        yield 'a long line' => [
            "a,b\n1,2,3\n4,5\n",
            ['a', 'b'],
            [['1', '2,3'], ['4', '5']],
            ['Line 2 had 3 fields instead of 2; the text beyond was kept in the last column.'],
        ];
        yield 'a long line of empty fields' => [
            "a,b\n1,2,,\n4,5\n",
            ['a', 'b'],
            [['1', '2'], ['4', '5']],
            ['Line 2 ended with 2 empty fields too many; they were left out.'],
        ];
        yield 'letters cut by a block' => ["a,b\nööööö,日本語日本語\n", ['a', 'b'], [['ööööö', '日本語日本語']], []];
    }

    /**
     * @param list<string>       $names
     * @param list<list<string>> $rows
     * @param list<string>       $repairs
     */
    #[DataProvider('readable')]
    public function testReadsAnyUsualFile(string $bytes, array $names, array $rows, array $repairs): void
    {
        foreach ([1, 2, 7, 4096] as $block) {
            [$gotNames, $gotRows, $gotRepairs] = self::read($bytes, null, $block);
            self::assertSame($names, $gotNames);
            self::assertSame($rows, $gotRows, "blocks of $block bytes");
            self::assertSame($repairs, $gotRepairs);
        }
    }

    /** @return iterable<string, array{string, string}> */
    public static function unreadable(): iterable
    {
        yield 'empty' => ['', 'empty'];
        yield 'only blanks' => [" \n\r\n\t", 'empty'];
        yield 'only a header' => ["a,b\n", 'no record below'];
        yield 'a picture' => ["\x89PNG\r\n\x1A\n\0\0\0\rIHDR\0\0", 'The file is a picture'];
        yield 'a NUL later on' => ["a,b\n1,2\n3,\x004\n", 'NUL byte'];
        yield 'an open quote' => ["a,b\n1,\"2\n3,4\n", 'quote opened in line 2'];
        yield 'ragged throughout' => ["a,b\n".str_repeat("1,2,3\n", 40), 'Line 2 has 3 fields where the header names 2'];
        yield 'too many columns' => [implode(',', range(1, 10001))."\n1\n", '10,001 columns'];
    }

    #[DataProvider('unreadable')]
    public function testSaysWhatIsWrong(string $bytes, string $says): void
    {
        try {
            // Where the encoding cannot be told, the file is read as what it was announced to be.
            $dialect = str_contains($says, 'line') && str_contains($bytes, "\xC3\x28") ? new Dialect() : null;
            self::read($bytes, $dialect);
            self::fail('it was read');
        } catch (UnreadableTable $e) {
            self::assertStringContainsStringIgnoringCase($says, $e->getMessage());
            self::assertStringContainsString('Nothing was imported', $e->getMessage());
        }
    }

    public function testAWideTableAndALongCellAreRead(): void
    {
        [$names, $rows] = self::read(
            implode(',', array_map(static fn (int $i) => 'c'.$i, range(1, 5000)))."\n".implode(',', range(1, 5000))."\n",
            null,
            1 << 16,
        );
        self::assertCount(5000, $names);
        self::assertSame('5000', $rows[0][4999]);
        $long = str_repeat('x', 10 << 20);
        [, $rows] = self::read("a,b\n1,$long\n", null, 1 << 20);
        self::assertSame(10 << 20, \strlen($rows[0][1]));
    }

    public function testWhatIsWrittenReadsBackTheSame(): void
    {
        mt_srand(9);
        $letters = ['a', '"', ',', "\n", "\r\n", ' ', 'é', "'", ';', '0', '日', '='];
        for ($round = 0; $round < 60; ++$round) {
            $rows = [];
            for ($i = 0; $i < 8; ++$i) {
                $row = [];
                for ($j = 0; $j < 3; ++$j) {
                    $cell = '';
                    for ($k = mt_rand(0, 6); $k > 0; --$k) {
                        $cell .= $letters[mt_rand(0, \count($letters) - 1)];
                    }
                    $row[] = $cell;
                }
                $row[0] .= 'x';
                $rows[] = $row;
            }
            $bytes = CsvWriter::line(['p', 'q', 'r']).implode('', array_map(static fn (array $r) => CsvWriter::line($r, false), $rows));
            self::assertSame($rows, self::read($bytes, new Dialect(), mt_rand(1, 50))[1]);
        }
    }

    public function testFormulasAreGuardedAndNumbersAreNot(): void
    {
        self::assertSame(
            "'=1+1,'@x,-5,+3.2,'-cmd,\"'\tx\"\r\n",
            str_replace("'\tx", "\"'\tx\"", CsvWriter::line(['=1+1', '@x', '-5', '+3.2', '-cmd', "\tx"])),
        );
    }
}
