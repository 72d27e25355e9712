<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests;

use Dokimos\Core\Stamp;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class StampTest extends TestCase
{
    public function testIsTheSameForTheSameAndKeptOverVersions(): void
    {
        self::assertSame('fd666ac5f6da5613a414185a9a0c885b', Stamp::of(['visits', 3, null, ['a' => 0.1]]));
    }

    /** @return iterable<string, array{mixed, mixed}> */
    public static function different(): iterable
    {
        yield 'order' => [['a', 'b'], ['b', 'a']];
        yield 'where a name ends' => [['ab', 'c'], ['a', 'bc']];
        yield 'text and number' => [['1'], [1]];
        yield 'nothing and empty' => [[null], ['']];
        yield 'a list and its only part' => [[['a']], ['a']];
    }

    #[DataProvider('different')]
    public function testDiffersWhereTheContentDoes(mixed $one, mixed $other): void
    {
        self::assertNotSame(Stamp::of($one), Stamp::of($other));
    }

    public function testWhatCannotBeWrittenIsRefused(): void
    {
        $this->expectException(\JsonException::class);
        Stamp::of([\NAN]);
    }
}
