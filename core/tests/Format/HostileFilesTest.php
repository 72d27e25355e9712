<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\Container;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\UnreadableTable;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Files as they really come, in the folder beside this: each is read with the repair named, or refused with a sentence that says what is
 * wrong. expected.json holds for each its fault, the corrections given, and what comes out.
 */
final class HostileFilesTest extends TestCase
{
    private const FOLDER = __DIR__.'/hostile';

    /**
     * @param array<string, mixed>|null $corrections
     *
     * @return array{names: list<string>, kinds: list<string>, rows: list<list<?string>>, repairs: list<string>}
     */
    private static function read(string $path, ?array $corrections, ?string $part = null): array
    {
        $text = (string) tempnam(sys_get_temp_dir(), 'dokimos');
        try {
            $container = Container::open($path);
            if (null !== $container) {
                $container->write($part ?? $container->parts()[0], $text, 1000);
                $path = $text;
            }
            $dialect = null;
            if (null !== $corrections) {
                // A header that is said is a correction of what was recognized; everything else is said in full.
                $dialect = Dialect::fromArray(isset($corrections['header']) ? $corrections + (new CsvFile($path))->dialect()->toArray() : $corrections);
            }
            [$table, $imported] = (new CsvFile($path))->read([], $dialect);
        } finally {
            unlink($text);
        }
        $rows = [];
        for ($i = 0; $i < min(6, $table->rows); ++$i) {
            $rows[] = array_values(array_map(static fn ($c) => $c->text($i), $table->columns()));
        }

        return [
            'names' => $table->names(),
            'kinds' => array_values(array_map(static fn ($c) => $c->kind()->value, $table->columns())),
            'rows' => $rows,
            'repairs' => $imported->repairs,
        ];
    }

    /** @return iterable<string, array{string, array{fault: string, corrections?: array<string, mixed>, part?: string, says?: string}}> */
    public static function files(): iterable
    {
        /** @var array<string, array{fault: string, corrections?: array<string, mixed>, part?: string, says?: string}> $expected */
        $expected = json_decode((string) file_get_contents(self::FOLDER.'/expected.json'), true, 32, \JSON_THROW_ON_ERROR);
        foreach ($expected as $name => $case) {
            yield $case['fault'] => [$name, $case];
        }
    }

    /** @param array{fault: string, corrections?: array<string, mixed>, part?: string, says?: string} $case */
    #[DataProvider('files')]
    public function testIsReadWithEveryRepairNamedOrRefusedInASentence(string $name, array $case): void
    {
        $got = null;
        try {
            $got = self::read(self::FOLDER.'/'.$name, $case['corrections'] ?? null, $case['part'] ?? null);
        } catch (UnreadableTable $e) {
            self::assertSame($case['says'] ?? 'It should have been read.', $e->getMessage());
            self::assertStringNotContainsString('/', $e->getMessage(), 'no path of the machine');
            self::assertStringEndsWith('.', $e->getMessage());
        }
        if (null !== $got) {
            self::assertSame(array_intersect_key($case, $got), $got);
        }
    }

    public function testEveryFileIsExpectedAndNoTwoAreTheSame(): void
    {
        $expected = iterator_to_array(self::files());
        self::assertGreaterThanOrEqual(120, \count($expected));
        self::assertSame(array_column($expected, 0), array_values(array_diff(scandir(self::FOLDER) ?: [], ['.', '..', 'expected.json'])));
        $bytes = array_map(
            static fn (array $case) => json_encode(
                [hash_file('xxh128', self::FOLDER.'/'.$case[0]), $case[1]['corrections'] ?? null, $case[1]['part'] ?? null],
                \JSON_THROW_ON_ERROR,
            ),
            array_values($expected),
        );
        self::assertSame(\count($bytes), \count(array_unique($bytes)));
    }

    /** @return iterable<string, array{string, string}> too large for the folder */
    public static function large(): iterable
    {
        yield 'letters that are not UTF-8 after a long stretch that is' => [
            "a,b\n".str_repeat("é,2\n", 300000).str_repeat("\xE9,2\n", 101),
            'holds letters that are not UTF-8',
        ];
        yield 'far too many columns' => [
            implode(',', range(1, 10001))."\n".implode(',', range(1, 10001))."\n",
            'at most 10,000 can be read',
        ];
    }

    #[DataProvider('large')]
    public function testALargeOneIsRefusedToo(string $bytes, string $says): void
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'dokimos');
        file_put_contents($file, $bytes);
        try {
            self::read($file, null);
            self::fail('It was read.');
        } catch (UnreadableTable $e) {
            self::assertStringContainsString($says, $e->getMessage());
            self::assertStringContainsString('Nothing was imported', $e->getMessage());
        } finally {
            unlink($file);
        }
    }
}
