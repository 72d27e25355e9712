<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CellBlock;
use Dokimos\Core\Format\CsvReader;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\MemoryFrames;
use Dokimos\Core\Format\TableImporter;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** The fast ways of reading and encoding give what the plain ways give. */
final class BlocksTest extends TestCase
{
    /** @return list<list<string>> random fields with every letter that matters to a reader */
    private static function random(int $seed, int $rows, int $width): array
    {
        mt_srand($seed);
        $letters = ['a', 'b', ',', ';', '"', "\n", "\r\n", ' ', 'é', '日', "'", '', '0', '1', '.5', '""', '-'];
        $out = [];
        for ($r = 0; $r < $rows; ++$r) {
            $fields = [];
            for ($c = 0; $c < $width; ++$c) {
                $field = '';
                for ($k = mt_rand(0, 4); $k > 0; --$k) {
                    $field .= $letters[mt_rand(0, \count($letters) - 1)];
                }
                $fields[] = $field;
            }
            $fields[0] = 'r'.$r.$fields[0];
            $out[] = $fields;
        }

        return $out;
    }

    /** @return iterable<string, array{int, int, int}> seed, columns, bytes of a block */
    public static function shapes(): iterable
    {
        foreach ([[1, 2, 3], [2, 3, 64], [3, 5, 1000], [4, 8, 17], [5, 2, 1 << 20], [6, 4, 5], [7, 11, 333]] as [$seed, $width, $block]) {
            yield "seed $seed, $width columns, blocks of $block" => [$seed, $width, $block];
        }
    }

    #[DataProvider('shapes')]
    public function testReadsWhatTheLanguagesOwnReaderReads(int $seed, int $width, int $block): void
    {
        $rows = self::random($seed, 300, $width);
        $csv = implode(',', array_map(static fn (int $c) => 'c'.$c, range(1, $width)))."\r\n";
        foreach ($rows as $row) {
            $csv .= CsvWriter::line($row, false);
        }
        $handle = fopen('php://memory', 'r+');
        self::assertNotFalse($handle);
        fwrite($handle, $csv);
        rewind($handle);
        fgetcsv($handle, null, ',', '"', '');
        $plain = [];
        while (false !== $fields = fgetcsv($handle, null, ',', '"', '')) {
            $plain[] = $fields;
        }
        $read = [];
        foreach ((new CsvReader(str_split($csv, max(1, $block)), new Dialect()))->batches(7) as $batch) {
            for ($i = 0; $i < $batch->rows; ++$i) {
                $read[] = array_column($batch->columns, $i);
            }
        }
        self::assertSame($rows, $read, 'what was written');
        self::assertSame($plain, $read, 'what the language reads');
    }

    #[DataProvider('shapes')]
    public function testTheQuickCutAtQuotesEqualsTheOneLetterByLetter(int $seed, int $width): void
    {
        mt_srand($seed);
        $letters = ['a', ',', '"', ' ', 'b', '""', ',"', '",', '"x"'];
        for ($i = 0; $i < 400; ++$i) {
            $line = 'k';
            for ($k = mt_rand(1, 2 * $width); $k > 0; --$k) {
                $line .= $letters[mt_rand(0, \count($letters) - 1)];
            }
            if (1 === substr_count($line, '"') % 2) {
                $line .= '"';
            }
            $open = false;
            $fields = CsvReader::fields($line, ',', '"', $open);
            if ($open) {
                continue;
            }
            // A header of as many names, so that nothing is mended.
            $header = implode(',', array_map(static fn (int $c) => 'c'.$c, range(1, \count($fields))));
            foreach ((new CsvReader([$header."\n".$line."\n"], new Dialect()))->batches() as $batch) {
                self::assertSame($fields, array_column($batch->columns, 0), $line);
            }
        }
    }

    public function testAShareOfTheColumnsIsTheSameAsInTheWhole(): void
    {
        $csv = "a,b,c,d,e\n";
        mt_srand(4);
        for ($i = 0; $i < 9000; ++$i) {
            $csv .= $i.','.mt_rand(0, 300).',x'.mt_rand(0, 9).',2026-01-'.\sprintf('%02d', 1 + $i % 28).','.(mt_rand(0, 9) > 8 ? '' : mt_rand() / 7)."\n";
        }
        $read = static function (array $share, int $block) use ($csv): array {
            $frames = new MemoryFrames();
            /** @var array{int, int} $share */
            $imported = (new TableImporter(new Dialect(), $frames))->import(static fn () => str_split($csv, max(1, $block)), share: $share);

            return array_map(static fn ($c) => [$c->kind, $c->levels, $c->profile], $imported->columns);
        };
        $whole = $read([0, 1], 1 << 17);
        self::assertSame([Kind::Number, Kind::Number, Kind::Category, Kind::Date, Kind::Number], array_column($whole, 0));
        $parts = $read([0, 2], 999) + $read([1, 2], 50000);
        ksort($parts);
        self::assertEquals($whole, $parts);
    }

    /** @return iterable<string, array{int, int}> different cells, rows */
    public static function repetitions(): iterable
    {
        yield 'one cell' => [1, 500];
        yield 'a few' => [20, 4096];
        yield 'as many as bytes' => [255, 4096];
        yield 'one too many' => [256, 4096];
        yield 'hardly any twice' => [4000, 4096];
        yield 'nothing at all' => [5, 0];
    }

    #[DataProvider('repetitions')]
    public function testABlockKeepsItsCellsHoweverOftenTheyRepeat(int $different, int $rows): void
    {
        mt_srand($different);
        $cells = [];
        for ($i = 0; $i < $rows; ++$i) {
            $cells[] = (string) mt_rand(1, $different);
        }
        $block = new CellBlock();
        foreach ([] === $cells ? [] : array_chunk($cells, 128) as $chunk) {
            $block->take($chunk);
        }
        self::assertSame($rows, $block->count());
        self::assertSame($cells, $block->cells());
        $counts = $block->distinct();
        $plain = array_count_values($cells);
        ksort($counts);
        ksort($plain);
        self::assertSame($plain, $counts);
        foreach ([1, 2, 4] as $width) {
            $bytes = [];
            foreach (array_keys($plain) as $cell) {
                $bytes[$cell] = substr(pack('V', (int) $cell), 0, $width);
            }
            self::assertSame(
                implode('', array_map(static fn (string $c) => $bytes[$c], $cells)),
                $block->join($bytes),
                "$width bytes a cell",
            );
        }
        $block->clear();
        self::assertSame([0, []], [$block->count(), $block->cells()]);
    }

    public function testAColumnThatStopsRepeatingInTheMiddleOfAFrameLosesNothing(): void
    {
        $cells = [
            ...array_fill(0, 3000, 'same'),
            ...array_map(static fn (int $i) => 'other '.$i, range(1, 6000)),
            ...array_fill(0, 100, 'same'),
        ];
        $frames = new MemoryFrames();
        $csv = "x\n".implode("\n", $cells)."\n";
        $imported = (new TableImporter(new Dialect(), $frames))->import(static fn () => [$csv]);
        $column = $frames->table($imported)->column('x');
        foreach ($cells as $i => $cell) {
            if ($column->text($i) !== $cell) {
                self::fail("row $i: ".$column->text($i));
            }
        }
        self::assertSame(6001, $imported->columns[0]->profile['distinct']);
        self::assertSame(\count($cells), $column->count());
    }

    public function testFramesHold4096RowsAndTheLastTheRest(): void
    {
        $sink = new class implements \Dokimos\Core\Format\FrameSink {
            /** @var list<array{int, int, int}> */
            public array $seen = [];

            public function frame(int $column, int $frame, string $bytes, int $rows): void
            {
                $this->seen[] = [$column, $frame, $rows];
            }
        };
        $csv = "a,b\n".str_repeat("1,x\n", 2 * FrameCodec::ROWS + 5);
        (new TableImporter(new Dialect(), $sink))->import(static fn () => [$csv]);
        self::assertSame([[0, 0, 4096], [1, 0, 4096], [0, 1, 4096], [1, 1, 4096], [0, 2, 5], [1, 2, 5]], $sink->seen);
    }
}
