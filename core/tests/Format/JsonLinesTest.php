<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\DialectSniffer;
use Dokimos\Core\Format\JsonLinesReader;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** One JSON object a line. */
final class JsonLinesTest extends TestCase
{
    public function testKindsNamesAndMissingCells(): void
    {
        $table = Files::ofText(<<<'JSONL'
            {"id":"A1","km":1.5,"late":true,"when":"2026-01-02","tags":["x","y"],"7":1}
            {"km":-2,"id":"A2","late":false,"when":null}

            {"id":"A3","late":null,"note":"größe, \"quoted\"","tags":{"a":1},"7":9007199254740993}
            JSONL);
        self::assertSame(
            ['id', 'km', 'late', 'when', 'tags', '7', 'note'],
            $table->names(),
            'every name that occurs, in the order of its first appearance',
        );
        $cells = static fn (string $name): array => array_map($table->column($name)->text(...), range(0, 2));
        self::assertSame(['1.5', '-2', null], $cells('km'));
        self::assertSame(['yes', 'no', null], $cells('late'));
        self::assertSame(['2026-01-02', null, null], $cells('when'));
        self::assertSame(['["x","y"]', null, '{"a":1}'], $cells('tags'));
        self::assertSame(['1', null, '9007199254740993'], $cells('7'));
        self::assertSame([null, null, 'größe, "quoted"'], $cells('note'));
        self::assertSame(
            ['number', 'yes/no', 'date'],
            [$table->column('km')->kind()->value, $table->column('late')->kind()->value, $table->column('when')->kind()->value],
        );
    }

    public function testHoweverItIsCutIntoBlocksAndShares(): void
    {
        $bytes = '';
        for ($i = 0; $i < 300; ++$i) {
            $bytes .= json_encode(['a' => $i, 'ä' => 'é'.$i, 'b' => 0 === $i % 3 ? null : $i / 7])."\r\n";
        }
        $read = static function (int $block, int $from, int $every) use ($bytes): array {
            $columns = [];
            foreach ((new JsonLinesReader(static fn () => str_split($bytes, max(1, $block))))->batches(64, [$from, $every]) as $batch) {
                foreach ($batch->columns as $j => $cells) {
                    $columns[$j] = [...($columns[$j] ?? []), ...$cells];
                }
            }

            return $columns;
        };
        $whole = $read(1 << 20, 0, 1);
        self::assertSame('é299', $whole[1][299]);
        foreach ([1, 7, 1000] as $block) {
            self::assertSame($whole, $read($block, 0, 1));
        }
        self::assertSame([$whole[0], [], $whole[2]], $read(100, 0, 2));
    }

    /** @return iterable<string, array{string, string}> */
    public static function wrong(): iterable
    {
        yield 'a line that is no object' => ["{\"a\":1}\n[1,2]\n", 'Line 2 is not a JSON object'];
        yield 'a broken line' => ["{\"a\":1}\n{\"a\":\n", 'Line 2 is not a JSON object'];
        yield 'objects without names' => ["{}\n{}\n", 'empty'];
        yield 'too deep' => ['{"a":'.str_repeat('[', 100).str_repeat(']', 100).'}', 'Line 1 is not a JSON object'];
    }

    #[DataProvider('wrong')]
    public function testWhatIsWrongIsSaid(string $bytes, string $says): void
    {
        $this->expectException(UnreadableTable::class);
        $this->expectExceptionMessage($says);
        iterator_to_array((new JsonLinesReader(static fn () => [$bytes]))->batches(), false);
    }

    public function testTheyAreRecognized(): void
    {
        self::assertSame(Dialect::JSON_LINES, DialectSniffer::detect("{\"a\":1}\n{\"a\":2}\n")->form);
        self::assertSame(Dialect::JSON_LINES, DialectSniffer::detect("\xEF\xBB\xBF{\"a\":1}\n")->form);
        self::assertSame(Dialect::TEXT, DialectSniffer::detect("{a,b}\n1,2\n")->form);
        $this->expectException(\InvalidArgumentException::class);
        new Dialect(form: 'XML');
    }

    /** @return iterable<string, array{string, list<string>, int}> text, names, and how many oddities are named */
    public static function oddNames(): iterable
    {
        yield 'names that are numbers' => ["{\"0\":1,\"1\":2}\n{\"0\":3,\"1\":4}\n", ['0', '1'], 0];
        yield 'numbers inside' => ["{\"a\":{\"0\":1},\"b\":[{\"0\":1},{\"0\":2}]}\n", ['a', 'b'], 0];
        yield 'a text that looks like a name' => ["{\"a\":\"x\\\": 1\",\"b\":\"\"}\n", ['a', 'b'], 0];
        yield 'twice inside' => ["{\"a\":{\"b\":1,\"b\":2}}\n", ['a'], 1];
        yield 'twice, of numbers' => ["{\"0\":1,\"0\":2}\n", ['0'], 1];
    }

    /** @param list<string> $names */
    #[DataProvider('oddNames')]
    public function testANameThatStandsTwiceIsNamedAndNoOther(string $text, array $names, int $repairs): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'dokimos');
        file_put_contents($file, $text);
        [$table, $imported] = (new CsvFile($file))->read();
        unlink($file);
        self::assertSame([$names, $repairs], [array_map(strval(...), $table->names()), \count($imported->repairs)]);
    }
}
