<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Register\DistributionPart;
use App\Register\Headline;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A picture's title states a finding only where there is one. */
final class HeadlineTest extends TestCase
{
    /** @return iterable<string, array{list<array{string, int, int}>, bool, ?string}> label, looked at, events */
    public static function pictures(): iterable
    {
        yield 'a clear step' => [
            [['0', 500, 50], ['5', 500, 52], ['10', 400, 120], ['15', 100, 31]],
            true,
            '“yes” in 30.2% from 10 on, in 10.2% below',
        ];
        yield 'the same everywhere' => [[['0', 500, 50], ['5', 500, 55], ['10', 400, 42]], true, null];
        yield 'a step on too few' => [[['0', 900, 90], ['5', 10, 9]], true, null];
        yield 'one value stands out' => [
            [['red', 400, 40], ['blue', 300, 33], ['green', 200, 80]],
            false,
            '“yes” in 40.0% of green, in 10.4% of the others',
        ];
        yield 'no value stands out' => [[['red', 40, 4], ['blue', 30, 5]], false, null];
        yield 'nobody looked at' => [[['red', 0, 0], ['blue', 0, 0]], false, null];
        yield 'always the event' => [[['0', 100, 100], ['1', 100, 100]], true, null];
        yield 'nothing' => [[], true, null];
    }

    /** @param list<array{string, int, int}> $parts */
    #[DataProvider('pictures')]
    public function testItIsSaidOrNot(array $parts, bool $ordered, ?string $said): void
    {
        $made = array_map(static fn (array $p) => new DistributionPart($p[0], null, null, $p[1], $p[1], $p[2], null, null, null), $parts);
        self::assertSame($said, Headline::of('x', 'yes', $made, $ordered));
    }
}
