<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\Container;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Format\WorkbookWriter;
use Dokimos\Core\Table\Kind;
use PhpOffice\PhpSpreadsheet\Cell\DataType;
use PhpOffice\PhpSpreadsheet\Shared\Date;
use PhpOffice\PhpSpreadsheet\Spreadsheet;
use PhpOffice\PhpSpreadsheet\Writer\Ods;
use PhpOffice\PhpSpreadsheet\Writer\Xlsx;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Workbooks and databases: their tables, and what is refused. */
final class ContainerTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/container-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob($this->folder.'/*') ?: []);
        rmdir($this->folder);
    }

    private function read(string $path, ?string $part = null, int $most = 1000): string
    {
        $container = Container::open($path);
        self::assertNotNull($container);
        $container->write($part ?? $container->parts()[0], $this->folder.'/out.csv', $most);

        return (string) file_get_contents($this->folder.'/out.csv');
    }

    /** @return iterable<string, array{string}> */
    public static function forms(): iterable
    {
        yield 'xlsx' => ['xlsx'];
        yield 'ods' => ['ods'];
    }

    #[DataProvider('forms')]
    public function testASheetIsReadWithItsStoredValues(string $form): void
    {
        $book = new Spreadsheet();
        $sheet = $book->getActiveSheet()->setTitle('Visits & more');
        $sheet->fromArray(['when', 'at', 'km', 'late', 'note', 'twice', 'code']);
        $sheet->setCellValue('A2', Date::PHPToExcel(new \DateTimeImmutable('2026-03-14')));
        // The library writes dates of ODS as numbers; how programs write them is tested below.
        $sheet->getStyle('A2')->getNumberFormat()->setFormatCode('dd/mm/yyyy');
        $sheet->setCellValue('B2', Date::PHPToExcel(new \DateTimeImmutable('2026-03-14 08:30:00')));
        $sheet->getStyle('B2')->getNumberFormat()->setFormatCode('dd/mm/yyyy hh:mm');
        $sheet->setCellValue('C2', 12.5);
        $sheet->setCellValue('D2', true);
        $sheet->setCellValueExplicit('E2', "gate \"A\", dog\nbarks", DataType::TYPE_STRING);
        $sheet->setCellValue('F2', '=C2*2');
        $sheet->setCellValueExplicit('G2', '007', DataType::TYPE_STRING);
        $sheet->setCellValue('C3', -1e15);
        $sheet->setCellValueExplicit('E3', '=1+1', DataType::TYPE_STRING);
        $book->createSheet()->setTitle('Second')->fromArray([['a', 'b'], [1, 2]]);
        $path = $this->folder.'/book.'.$form;
        ('xlsx' === $form ? new Xlsx($book) : new Ods($book))->save($path);
        $container = Container::open($path);
        self::assertNotNull($container);
        self::assertSame(['workbook', ['Visits & more', 'Second']], [$container->what(), $container->parts()]);
        $this->read($path);
        [$table] = (new CsvFile($this->folder.'/out.csv'))->read();
        self::assertSame(['when', 'at', 'km', 'late', 'note', 'twice', 'code'], $table->names());
        self::assertSame(
            [
                ...('xlsx' === $form ? ['2026-03-14', '2026-03-14T08:30:00'] : ['46095', '46095.354166667']),
                '12.5',
                'yes',
                "gate \"A\", dog\nbarks",
                '25',
                '007',
            ],
            array_map(static fn (string $n) => $table->column($n)->text(0), $table->names()),
        );
        self::assertSame(
            ['xlsx' === $form ? Kind::Date : Kind::Number, Kind::Number],
            [$table->column('when')->kind(), $table->column('km')->kind()],
        );
        self::assertNull($table->column('when')->text(1));
        self::assertSame("a,b\n1,2\n", $this->read($path, 'Second'));
        $this->expectExceptionMessage('There is no sheet Third in the workbook.');
        $this->read($path, 'Third');
    }

    public function testDatesAndYesNoOfAnOdsFile(): void
    {
        $cell = static fn (string $type, string $value, string $text) => \sprintf(
            '<table:table-cell office:value-type="%s" office:%s><text:p>%s</text:p></table:table-cell>',
            $type,
            $value,
            $text,
        );
        $rows = [
            [
                $cell('string', 'string-value="when"', 'when'),
                $cell('string', 'string-value="late"', 'late'),
                $cell('string', 'string-value="share"', 'share'),
            ],
            [
                $cell('date', 'date-value="2026-03-14"', '14/03/26'),
                $cell('boolean', 'boolean-value="true"', 'TRUE'),
                $cell('percentage', 'value="0.25"', '25%'),
            ],
        ];
        $xml = '<?xml version="1.0" encoding="UTF-8"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.2"><office:body><office:spreadsheet><table:table table:name="One">'.implode(
            '',
            array_map(static fn (array $r) => '<table:table-row>'.implode('', $r).'</table:table-row>', $rows),
        ).'</table:table></office:spreadsheet></office:body></office:document-content>';
        $zip = new \ZipArchive();
        $zip->open($this->folder.'/x.ods', \ZipArchive::CREATE);
        $zip->addFromString('mimetype', 'application/vnd.oasis.opendocument.spreadsheet');
        $zip->addFromString('content.xml', $xml);
        foreach (['meta' => 'meta', 'styles' => 'styles'] as $name => $element) {
            $zip->addFromString(
                $name.'.xml',
                '<?xml version="1.0" encoding="UTF-8"?><office:document-'.$element.' xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" office:version="1.2"/>',
            );
        }
        $zip->close();
        self::assertSame("when,late,share\n2026-03-14,yes,0.25\n", $this->read($this->folder.'/x.ods'));
    }

    public function testWhatIsWrittenComesBack(): void
    {
        $path = $this->folder.'/book.xlsx';
        WorkbookWriter::write(
            ['n', 'd', 't', 'y', '5'],
            [Kind::Number, Kind::Date, Kind::Text, Kind::YesNo, Kind::Category],
            [['1.5', '2026-01-02', '=SUM(A1)', 'Yes', 'a'], ['-3', null, '+cmd', 'no', '@x'], [null, '2026-01-03', "two\nlines", null, '']],
            $path,
        );
        self::assertSame("n,d,t,y,5\n1.5,2026-01-02,=SUM(A1),yes,a\n-3,,+cmd,no,@x\n,2026-01-03,\"two\nlines\",,\n", $this->read($path));
    }

    /** @return iterable<string, array{array<string, string>, string}> files inside an archive, and the sentence */
    public static function hostile(): iterable
    {
        $sheet = ['xl/workbook.xml' => '<workbook/>'];
        yield 'no workbook' => [['readme.txt' => 'hello'], 'neither an XLSX nor an ODS workbook'];
        yield 'a document type' => [
            $sheet + ['xl/sharedStrings.xml' => '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/passwd">]><sst>&a;</sst>'],
            'declares a document type',
        ];
        yield 'a document type in UTF-16' => [
            $sheet + ['xl/styles.xml' => mb_convert_encoding('<?xml version="1.0" encoding="UTF-16"?><!DOCTYPE x><x/>', 'UTF-16')],
            'declares a document type',
        ];
        yield 'a document type in ODS' => [['content.xml' => '<!DOCTYPE lolz [<!ENTITY lol "lol">]><x/>'], 'declares a document type'];
        yield 'a bomb' => [$sheet + ['xl/worksheets/sheet1.xml' => str_repeat('<c/>', 4 << 20)], 'far larger than it looks'];
        yield 'too many files' => [
            $sheet + array_fill_keys(array_map(static fn (int $i) => "f$i", range(1, 5001)), ''),
            'far more than a workbook needs',
        ];
        yield 'an empty workbook' => [$sheet, 'damaged or protected'];
        yield 'broken XML' => [['content.xml' => '<office:document'], 'damaged or protected'];
    }

    /** @param array<string, string> $files */
    #[DataProvider('hostile')]
    public function testAHostileArchiveIsRefusedInASentence(array $files, string $sentence): void
    {
        $zip = new \ZipArchive();
        $zip->open($this->folder.'/x.xlsx', \ZipArchive::CREATE);
        foreach ($files as $name => $bytes) {
            $zip->addFromString($name, $bytes);
        }
        $zip->close();
        $this->expectException(UnreadableTable::class);
        $this->expectExceptionMessage($sentence);
        $this->read($this->folder.'/x.xlsx');
    }

    public function testACutOffArchiveAndAnOldWorkbookAreSaid(): void
    {
        foreach ([
            "PK\x03\x04half" => 'damaged',
            "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1rest" => 'old binary form',
            "SQLite format 3\0rest" => 'The database says',
        ] as $bytes => $sentence) {
            file_put_contents($this->folder.'/f', $bytes);
            try {
                $this->read($this->folder.'/f');
                self::fail($sentence);
            } catch (UnreadableTable $e) {
                self::assertStringContainsString($sentence, $e->getMessage());
            }
        }
        file_put_contents($this->folder.'/f', "a,b\n1,2\n");
        self::assertNull(Container::open($this->folder.'/f'));
    }

    private function database(): string
    {
        $path = $this->folder.'/d.sqlite';
        $db = new \SQLite3($path);
        $db->exec("CREATE TABLE visits (id INTEGER, km REAL, note TEXT, \"odd\"\" name\" BLOB); INSERT INTO visits VALUES (1, 0.1, 'a, b', NULL), (2, NULL, 'größe', x'00ff'), (3, 1e20, '', 7); CREATE VIEW late AS SELECT id FROM visits WHERE id > 1");
        $db->close();

        return $path;
    }

    public function testADatabaseGivesTablesViewsAndSelects(): void
    {
        $path = $this->database();
        self::assertSame(['database', ['late', 'visits']], [Container::open($path)?->what(), Container::open($path)?->parts()]);
        self::assertSame("id,km,note,\"odd\"\" name\"\n1,0.1,\"a, b\",\n2,,größe,?\n3,1.0e+20,,7\n", $this->read($path, 'visits'));
        self::assertSame("id\n2\n3\n", $this->read($path, 'late'));
        self::assertSame("id\n2\n", $this->read($path, 'late', 1));
        self::assertSame("n,total\n3,6\n", $this->read($path, 'SELECT count(*) AS n, sum(id) AS total FROM visits'));
        self::assertSame(
            "i\n1\n2\n3\n",
            $this->read($path, 'WITH RECURSIVE c(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM c WHERE i < 3) SELECT i FROM c'),
        );
    }

    /** @return iterable<string, array{string, string}> */
    public static function forbidden(): iterable
    {
        yield 'another table' => ['nowhere', 'There is no table nowhere in the database'];
        yield 'writing' => ['DELETE FROM visits', 'name a table or write a SELECT'];
        yield 'writing behind a WITH' => ['WITH x AS (SELECT 1) DELETE FROM visits', 'The database says'];
        yield 'another file' => ["SELECT load_extension('x.so')", 'The database says'];
        yield 'a missing column' => ['SELECT absent FROM visits', 'no such column'];
        yield 'half a statement' => ['SELECT (', 'The database says'];
        yield 'attached' => ["ATTACH '/tmp/x' AS y", 'name a table or write a SELECT'];
        yield 'a setting as a table' => ['SELECT * FROM pragma_database_list', 'The database says'];
        yield 'without end' => [
            'WITH RECURSIVE c(i) AS (SELECT 1 UNION ALL SELECT i FROM c) SELECT count(*) FROM c LIMIT',
            'The database says',
        ];
    }

    #[DataProvider('forbidden')]
    public function testOnlyReadingIsAllowed(string $part, string $sentence): void
    {
        $path = $this->database();
        try {
            $this->read($path, $part);
            self::fail('It was read.');
        } catch (UnreadableTable $e) {
            self::assertStringContainsString($sentence, $e->getMessage());
        }
        self::assertSame(3, (new \SQLite3($path))->querySingle('SELECT count(*) FROM visits'), 'nothing was changed');
    }

    /** An ODS file with these rows in its only sheet. */
    private function ods(string $rows): string
    {
        $path = $this->folder.'/own.ods';
        (new Ods(new Spreadsheet()))->save($path);
        $zip = new \ZipArchive();
        $zip->open($path);
        $zip->addFromString(
            'content.xml',
            (string) preg_replace(
                '#(<table:table [^>]*>).*</table:table>#s',
                '$1'.$rows.'</table:table>',
                (string) $zip->getFromName('content.xml'),
            ),
        );
        $zip->close();

        return $path;
    }

    public function testRepeatedEmptyRowsDurationsAndRemarksOfAnOdsFile(): void
    {
        $text = static fn (string $t): string => '<table:table-cell office:value-type="string"><text:p>'.$t.'</text:p></table:table-cell>';
        $time = static fn (string $t): string => '<table:table-cell office:value-type="time" office:time-value="'.$t.'"><text:p>x</text:p></table:table-cell>';
        $row = static fn (string ...$cells): string => '<table:table-row>'.implode('', $cells).'<table:table-cell table:number-columns-repeated="16000"/></table:table-row>';
        $remark = '<table:table-cell office:value-type="string"><office:annotation><text:p>a remark</text:p></office:annotation><text:p>two<text:s text:c="2"/>blanks</text:p><text:p>and a line</text:p></table:table-cell>';
        $path = $this->ods($row($text('a'), $text('b')).$row($text('1'), $time('PT30H15M00S')).'<table:table-row table:number-rows-repeated="2"/>'.$row($remark, $time('PT00H05M09.5S')).'<table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>');
        self::assertSame("a,b\n1,30:15:00\n,\n,\n\"two  blanks\nand a line\",00:05:09\n", $this->read($path));
        self::assertSame(4, Container::open($path)?->about('Worksheet'));
        self::assertSame("a,b\n1,30:15:00\n", $this->read($path, null, 1));
        $this->expectExceptionMessage('A cell of the sheet is longer than 1 MB');
        $this->read($this->ods($row($text('a')).$row($text(str_repeat('x', 2 << 20)))));
    }

    public function testDatesAndNumbersBeyondAllOfAnXlsxFile(): void
    {
        $book = new Spreadsheet();
        $sheet = $book->getActiveSheet();
        $sheet->fromArray(['when', 'n']);
        foreach ([[46095.0, 1.5], [9e15, 2], [-5, 3]] as $i => [$date, $n]) {
            $sheet->setCellValue('A'.($i + 2), $date);
            $sheet->getStyle('A'.($i + 2))->getNumberFormat()->setFormatCode('dd/mm/yyyy');
            $sheet->setCellValue('B'.($i + 2), $n);
        }
        $path = $this->folder.'/far.xlsx';
        (new Xlsx($book))->save($path);
        self::assertSame("when,n\n2026-03-14,1.5\n9000000000000000,2\n-5,3\n", $this->read($path));
    }
}
