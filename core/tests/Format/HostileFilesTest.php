<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\UnreadableTable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Files as they really come: each is read with the repair named, or refused with a sentence that says what is wrong. */
final class HostileFilesTest extends TestCase
{
    /**
     * @param array<string, mixed>|null $corrections
     *
     * @return array{list<string>, list<list<?string>>, list<string>, list<string>} names, rows, repairs, kinds
     */
    private static function read(string $bytes, ?array $corrections = null): array
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'dokimos');
        file_put_contents($file, $bytes);
        try {
            [$table, $imported] = (new CsvFile($file))->read([], null === $corrections ? null : Dialect::fromArray($corrections));
        } finally {
            unlink($file);
        }
        $rows = [];
        for ($i = 0; $i < $table->rows; ++$i) {
            $rows[] = array_values(array_map(static fn ($c) => $c->text($i), $table->columns()));
        }

        return [$table->names(), $rows, $imported->repairs, array_values(array_map(static fn ($c) => $c->kind()->value, $table->columns()))];
    }

    /** @return iterable<string, array{string, list<string>, list<list<?string>>, list<string>}> bytes, names, rows, what the repairs say */
    public static function read_(): iterable
    {
        $ab = ['a', 'b'];
        yield 'blanks around names' => [" a ,  b\t\n1,2\n", $ab, [['1', '2']], []];
        yield 'line ends inside a name' => ["\"a\nlong name\",b\n1,2\n", ['a long name', 'b'], [['1', '2']], []];
        yield 'a name three times' => ["x,x,x\n1,2,3\n", ['x', 'x_2', 'x_3'], [['1', '2', '3']], ['The name x stood twice; column 2', 'The name x stood twice; column 3']];
        yield 'a name that a repeated one would get' => ["x,x_2,x\n1,2,3\n", ['x', 'x_2', 'x_3'], [['1', '2', '3']], ['column 3 is called x_3']];
        yield 'names that differ in case only' => ["Ab,aB\n1,2\n", ['Ab', 'aB'], [['1', '2']], []];
        yield 'every name empty' => [",\n1,2\n", ['column_1', 'column_2'], [['1', '2']], ['Column 1 had no name', 'Column 2 had no name']];
        yield 'a name of blanks' => ["a,   \n1,2\n", ['a', 'column_2'], [['1', '2']], ['Column 2 had no name']];
        yield 'names in other scripts' => ["größe,日付,имя\n1,2,3\n", ['größe', '日付', 'имя'], [['1', '2', '3']], []];
        yield 'a name of symbols' => ["=SUM(A1),<b>\n1,2\n", ['=SUM(A1)', '<b>'], [['1', '2']], []];
        yield 'names made of digits over numbers' => ["km,2024\n1,2\n3,4\n", ['km', '2024'], [['1', '2'], ['3', '4']], []];
        yield 'right-to-left letters and marks' => ["a,b\n\u{202E}abc,\u{200F}x\n", $ab, [["\u{202E}abc", "\u{200F}x"]], []];
        yield 'zero-width letters are kept' => ["a,b\nx\u{200B}y,1\n", $ab, [["x\u{200B}y", '1']], []];
        yield 'emoji of several code points' => ["a,b\n👩‍👩‍👧,1\n", $ab, [['👩‍👩‍👧', '1']], []];
        yield 'combining accents are not merged' => ["a,b\ne\u{301},\u{E9}\n", $ab, [["e\u{301}", "\u{E9}"]], []];
        yield 'control letters' => ["a,b\n\x01x\x1F,1\n", $ab, [["\x01x\x1F", '1']], []];
        yield 'a vertical tab is no line end' => ["a,b\nx\x0By,1\n", $ab, [["x\x0By", '1']], []];
        yield 'a Unicode line separator is no line end' => ["a,b\nx\u{2028}y,1\n", $ab, [["x\u{2028}y", '1']], []];
        yield 'mixed line ends' => ["a,b\n1,2\r\n3,4\n5,6\r\n", $ab, [['1', '2'], ['3', '4'], ['5', '6']], []];
        yield 'many empty lines at the end' => ["a,b\n1,2\n\n\n\n\n", $ab, [['1', '2']], []];
        yield 'lines of delimiters alone are records of nothing' => ["a,b\n1,2\n,\n3,4\n", $ab, [['1', '2'], [null, null], ['3', '4']], []];
        yield 'a line of blanks is short' => ["a,b\n1,2\n   \n3,4\n", $ab, [['1', '2'], [null, null], ['3', '4']], ['Line 3 had 1 fields of 2']];
        yield 'trailing delimiters on every line' => ["a,b,\n1,2,\n3,4,\n", ['a', 'b', 'column_3'], [['1', '2', null], ['3', '4', null]], ['Column 3 had no name']];
        yield 'a quote that opens late' => ["a,b\nx\"y\",1\n", $ab, [['x"y"', '1']], []];
        yield 'quotes doubled outside of quotes' => ["a,b\nx\"\"y,1\n", $ab, [['x""y', '1']], []];
        yield 'nothing but quotes' => ["a,b\n\"\"\"\"\"\",1\n", $ab, [['""', '1']], []];
        yield 'a quoted line end at the very end' => ["a,b\n1,\"x\n\"", $ab, [['1', "x\n"]], []];
        yield 'CRLF inside quotes stays' => ["a,b\r\n1,\"x\r\ny\"\r\n", $ab, [['1', "x\r\ny"]], []];
        yield 'a delimiter inside quotes at the end' => ["a,b\n1,\"x,\"\n", $ab, [['1', 'x,']], []];
        yield 'blanks before a quote make it a letter' => ["a,b\n1, \"x\"\n", $ab, [['1', ' "x"']], []];
        yield 'curly quotes are letters' => ["a,b\n“x, y”,1\n", $ab, [['“x', ' y”,1']], ['Line 2 had 3 fields instead of 2']];
        yield 'a spreadsheet formula is text' => ["a,b\n=1+1,@cmd\n", $ab, [['=1+1', '@cmd']], []];
        yield 'numbers with a unit are text' => ["a,b\n5 kg,1\n7 kg,2\n", $ab, [['5 kg', '1'], ['7 kg', '2']], []];
        yield 'a percent column' => ["a,b\n12%,1\n7.5 %,2\n", $ab, [['0.12', '1'], ['0.075', '2']], []];
        yield 'numbers in parentheses are negative' => ["a,b\n(5),1\n(12.5),2\n", $ab, [['-5', '1'], ['-12.5', '2']], []];
        yield 'numbers beyond 2^53 keep their digits' => ["a,b\n9007199254740993,1\n123,2\n", $ab, [['9007199254740993', '1'], ['123', '2']], []];
        yield 'leading zeros are kept' => ["a,b\n007,1\n12,2\n", $ab, [['007', '1'], ['12', '2']], []];
        yield 'exponents' => ["a,b\n1e3,1\n2.5E-1,2\n", $ab, [['1000', '1'], ['0.25', '2']], []];
        yield 'infinity and not-a-number' => ["a,b\ninf,1\nnan,2\n3,3\n", $ab, [['inf', '1'], [null, '2'], ['3', '3']], []];
        yield 'a minus sign of typography is text' => ["a,b\n\u{2212}5,1\n3,2\n", $ab, [["\u{2212}5", '1'], ['3', '2']], []];
        yield 'dates that cannot be' => ["a,b\n2026-02-30,1\n2026-01-01,2\n", $ab, [['2026-02-30', '1'], ['2026-01-01', '2']], []];
        yield 'dates with and without a time' => ["a,b\n2026-01-01 10:30,1\n2026-01-02,2\n", $ab, [['2026-01-01T10:30:00', '1'], ['2026-01-02', '2']], []];
        yield 'dates before 1970' => ["a,b\n1899-12-31,1\n1969-07-20,2\n", $ab, [['1899-12-31', '1'], ['1969-07-20', '2']], []];
        yield 'yes and no in capitals' => ["a,b\nYES,1\nNO,2\nYES,3\n", $ab, [['YES', '1'], ['NO', '2'], ['YES', '3']], []];
        yield 'only missing cells' => ["a,b\nNA,1\n,2\nnull,3\n", $ab, [[null, '1'], [null, '2'], [null, '3']], []];
        yield 'markup is text' => ["a,b\n<script>alert(1)</script>,1\n", $ab, [['<script>alert(1)</script>', '1']], []];
        yield 'a path' => ["a,b\n../../etc/passwd,1\n", $ab, [['../../etc/passwd', '1']], []];
        yield 'a query' => ["a,b\n'; DROP TABLE study; --,1\n", $ab, [["'; DROP TABLE study; --", '1']], []];
        yield 'one record, one column' => ["only\nx\n", ['only'], [['x']], []];
        yield 'a file without a last line end' => ["a,b\n1,2", $ab, [['1', '2']], []];
        yield 'a byte order mark and quotes' => ["\xEF\xBB\xBF\"a\",\"b\"\n1,2\n", $ab, [['1', '2']], []];
        yield 'UTF-16 with quotes and line ends inside' => ["\xFF\xFE".mb_convert_encoding("a,b\n\"é\nü\",2\n", 'UTF-16LE', 'UTF-8'), $ab, [["é\nü", '2']], []];
        yield 'bars' => ["a|b\nx|1\n", $ab, [['x', '1']], []];
        yield 'a tab-separated file with commas inside' => ["a\tb\n1,5\tx, y\n2,5\tz\n", $ab, [['1.5', 'x, y'], ['2.5', 'z']], []];
    }

    /**
     * @param list<string>        $names
     * @param list<list<?string>> $rows
     * @param list<string>        $repairs
     */
    #[DataProvider('read_')]
    public function testIsReadWithEveryRepairNamed(string $bytes, array $names, array $rows, array $repairs): void
    {
        [$gotNames, $gotRows, $gotRepairs] = self::read($bytes);
        self::assertSame($names, $gotNames);
        self::assertSame($rows, $gotRows);
        self::assertCount(\count($repairs), $gotRepairs, implode(' ', $gotRepairs));
        foreach ($repairs as $i => $says) {
            self::assertStringContainsString($says, $gotRepairs[$i]);
        }
    }

    /** @return iterable<string, array{string, string, array<string, mixed>|null}> */
    public static function refused(): iterable
    {
        yield 'an archive' => ["PK\x03\x04\x14\x00\x00\x00", 'NUL byte at position', null];
        yield 'a document' => ["%PDF-1.7\n\x00\x00binary", 'not a text table', null];
        yield 'a NUL deep inside' => ["a,b\n".str_repeat("1,2\n", 5000)."3,\0\n", 'NUL byte', null];
        yield 'a byte order mark alone' => ["\xEF\xBB\xBF", 'empty', null];
        yield 'line ends alone' => ["\r\n\r\n\r\n", 'empty', null];
        yield 'a header alone with a line end' => ["a,b,c\r\n", 'a header with 3 columns but no record', null];
        yield 'everything skipped' => ["a,b\n1,2\n", 'empty', ['skip' => 900]];
        yield 'a quote never closed' => ["a,b\n1,\"x\n2,y\n3,z\n", 'A quote opened in line 2 is never closed', null];
        yield 'a quote never closed far down' => ["a,b\n".str_repeat("1,2\n", 70)."\"x,2\n3,4\n", 'A quote opened in line 72', null];
        yield 'letters that are not UTF-8 after a long stretch that is' => ["a,b\n".str_repeat("é,2\n", 300000)."\xE9,2\n", 'holds letters that are not UTF-8', null];
        yield 'half a letter at the end' => ["a,b\n1,\xC3", 'are not UTF-8', ['encoding' => 'UTF-8']];
        yield 'an odd number of bytes in UTF-16' => ["\xFF\xFE".mb_convert_encoding("a,b\n1,2\n", 'UTF-16LE', 'UTF-8').'x', 'are not UTF-16LE', null];
        yield 'far too many columns' => [implode(',', range(1, 10001))."\n".implode(',', range(1, 10001))."\n", 'at most 10,000 can be read', null];
        yield 'every second line of another width' => ["a,b\n".str_repeat("1,2\n1,2,3,4\n", 40), 'too many to repair', null];
    }

    /** @param array<string, mixed>|null $corrections */
    #[DataProvider('refused')]
    public function testIsRefusedWithASentence(string $bytes, string $says, ?array $corrections): void
    {
        try {
            self::read($bytes, $corrections);
            self::fail('It was read.');
        } catch (UnreadableTable $e) {
            self::assertStringContainsString($says, $e->getMessage());
            self::assertStringContainsString('Nothing was imported', $e->getMessage());
            self::assertStringNotContainsString('/', $e->getMessage(), 'no path of the machine');
        }
    }

    /** @return iterable<string, array{string, string}> cells of a column, one a line, and the kind that they are */
    public static function kinds(): iterable
    {
        yield 'money in quotes' => ["\"€ 5\"\n\"€ 7,000\"", 'number'];
        yield 'percent' => ["5%\n7%", 'number'];
        yield 'times of day are text' => ["08:30\n09:15", 'category'];
        yield 'dates with a dot' => ["1.2.2026\n28.2.2026", 'date'];
        yield 'dates with a slash' => ["01/02/2026\n28/02/2026", 'date'];
        yield 'dates and a word' => ["2026-01-01\nsoon", 'category'];
        yield 'numbers and a dash' => ["5\n-\n7", 'category'];
        yield 'numbers and missing' => ["5\nNA\n7", 'number'];
        yield 'postcodes' => ["01234\n98765", 'category'];
        yield 'telephone numbers' => ["+49 30 123\n+49 89 456", 'category'];
        yield 'version numbers' => ["1.2.3\n1.3.0", 'category'];
        yield 'true and false' => ["true\nfalse\ntrue", 'yes/no'];
        yield 'y and n' => ["y\nn\ny", 'yes/no'];
        yield 'yes only' => ["yes\nyes", 'yes/no'];
        yield 'addresses of pages' => ["https://a.example/1\nhttps://a.example/1", 'category'];
    }

    #[DataProvider('kinds')]
    public function testKindsOfAwkwardColumns(string $cells, string $kind): void
    {
        $lines = implode('', array_map(static fn (string $c) => 'z,'.$c."\n", explode("\n", $cells)));
        self::assertSame($kind, self::read("other,x\n".$lines, ['header' => true])[3][1]);
    }
}
