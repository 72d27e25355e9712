<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Profile;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Format\ColumnEncoder;
use Dokimos\Core\Profile\DistinctTexts;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Different texts are counted exactly, however many there are and however often they come. */
final class DistinctTextsTest extends TestCase
{
    /** @return iterable<string, array{int, int}> different ones, how many pass by */
    public static function columns(): iterable
    {
        yield 'none' => [1, 0];
        yield 'one' => [1, 5000];
        yield 'few' => [300, 5000];
        yield 'as many as are listed' => [50_000, 120_000];
        yield 'more than are listed, each once' => [400_000, 400_000];
        yield 'more than are listed, again and again' => [80_000, 1_200_000];
    }

    #[DataProvider('columns')]
    public function testEachIsCountedOnce(int $different, int $cells): void
    {
        $count = new DistinctTexts();
        for ($from = 0; $from < $cells; $from += FrameCodec::ROWS) {
            $count->add(array_map(
                static fn (int $i): string => \sprintf('V%07d', $i * 7919 % $different),
                range($from, min($cells, $from + FrameCodec::ROWS) - 1),
            ));
        }
        self::assertSame(min($different, $cells), $count->count());
        self::assertSame(min($different, $cells), $count->count(), 'asking changes nothing');
        $count->add(['V0000000', 'another', '']);
        self::assertSame(0 === $cells ? 3 : $different + 2, $count->count());
    }

    public function testAKeyOfManyRecordsIsAnIdentifier(): void
    {
        $encoder = new ColumnEncoder(new CellParser('.', ['']));
        for ($from = 0; $from < 200_000; $from += FrameCodec::ROWS) {
            $encoder->take(array_map(static fn (int $i): string => 'V'.$i, range($from, $from + FrameCodec::ROWS - 1)));
            $encoder->frame();
        }
        self::assertSame(Kind::Identifier, $encoder->kind());
        self::assertSame(200_704, $encoder->finish()->profile['distinct']);
    }
}
