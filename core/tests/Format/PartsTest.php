<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Table\FrameCodec;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A file read a few thousand rows at a time says the same as read whole. */
final class PartsTest extends TestCase
{
    /** @return iterable<string, array{int}> */
    public static function sizes(): iterable
    {
        foreach ([1, 2, FrameCodec::ROWS - 1, FrameCodec::ROWS, 2 * FrameCodec::ROWS + 5] as $rows) {
            yield $rows.' rows' => [$rows];
        }
    }

    #[DataProvider('sizes')]
    public function testPartsTogetherAreTheWhole(int $rows): void
    {
        $path = tempnam(sys_get_temp_dir(), 'parts');
        self::assertIsString($path);
        $csv = "id,amount,size,day,said\n";
        for ($i = 0; $i < $rows; ++$i) {
            // A number that is missing here and there, a level that comes late, a cell with a line end in quotes.
            $csv .= \sprintf(
                "k%d,%s,%s,2026-%02d-%02d,\"said, %d\nthen\"\n",
                $i,
                0 === $i % 7 ? '' : (string) ($i / 4),
                $i > 5000 ? 'late' : ['s', 'm', 'l'][$i % 3],
                1 + $i % 12,
                1 + $i % 28,
                $i,
            );
        }
        file_put_contents($path, $csv);
        $file = new CsvFile($path);
        [$whole, $imported] = $file->read();
        $look = $file->look($file->dialect());
        self::assertEquals([$imported->names, $imported->rows], [$look->names, $look->rows]);
        $kinds = [];
        foreach ($look->columns as $j => $column) {
            $kinds[$look->names[$j]] = $column->kind;
        }
        $at = 0;
        foreach ($file->parts($file->dialect(), $kinds) as $part) {
            self::assertLessThanOrEqual(FrameCodec::ROWS, $part->rows);
            foreach ($whole->names() as $name) {
                self::assertSame($whole->column($name)->kind(), $part->column($name)->kind());
                for ($row = 0; $row < $part->rows; $row += 97) {
                    self::assertSame($whole->column($name)->text($at + $row), $part->column($name)->text($row));
                }
            }
            $at += $part->rows;
        }
        self::assertSame($rows, $at);
        unlink($path);
    }
}
