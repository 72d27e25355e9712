<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CsvWriter;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Text that a spreadsheet would run is guarded, however it hides its sign; everything else is written as it is. */
final class CsvWriterTest extends TestCase
{
    /** @return iterable<string, array{string, bool}> */
    public static function cells(): iterable
    {
        foreach ([
            '=1+1',
            '+cmd',
            '-cmd|x',
            '@sum',
            "\t=1",
            "\rx",
            ' =1',
            '  +x',
            "\u{A0}=1",
            "\u{200B}=1",
            "\u{FEFF}=1",
            "\u{3000}@x",
            "\u{FF1D}1+1",
            "\u{FF0B}x",
            "\u{FF0D}x",
            "\u{FF20}x",
            '"=1',
            "'=1",
            "\n=1",
            "\u{2212}x",
        ] as $cell) {
            yield json_encode($cell, \JSON_THROW_ON_ERROR).' is guarded' => [$cell, true];
        }
        foreach (['-5', '+5.5', ' -5', '-1e-7', 'a=b', '1-2', 'x@y', '“quoted”', '(5)', '', 'é=1', '#N/A', '€-5'] as $cell) {
            yield json_encode($cell, \JSON_THROW_ON_ERROR).' is not' => [$cell, false];
        }
    }

    #[DataProvider('cells')]
    public function testFormulas(string $cell, bool $guarded): void
    {
        $line = CsvWriter::line([$cell, 'x']);
        self::assertSame(
            $guarded,
            str_starts_with(ltrim($line, '"'), "'") && !str_starts_with($cell, "'") || str_starts_with(ltrim($line, '"'), "''"),
            $line,
        );
        self::assertStringEndsWith(",x\r\n", $line);
        $guarded || self::assertSame(CsvWriter::line([$cell, 'x'], false), $line);
    }
}
