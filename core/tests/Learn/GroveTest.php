<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Tree\Division;
use Dokimos\Core\Learn\Tree\Grove;
use PHPUnit\Framework\TestCase;

/** Many trees in flat lists know which columns they ask about, whatever is added to them or taken away. */
final class GroveTest extends TestCase
{
    private static function stump(Grove $grove, int $column): void
    {
        $grove->begin();
        $root = $grove->node(new Division($column, 1.0, 3, 4, null, true));
        $grove->leaf([0.0]);
        $grove->turnRight($root, $grove->leaf([1.0]));
    }

    public function testColumnsAreThoseOfTheTreesThatAreThereNow(): void
    {
        $grove = new Grove();
        self::assertSame([], $grove->features());
        foreach ([7, 2, 7] as $column) {
            self::stump($grove, $column);
        }
        self::assertSame([2, 7], $grove->features());
        $grove->keep(1);
        // As many nodes as before, of other columns.
        self::stump($grove, 9);
        self::stump($grove, 0);
        self::assertSame([0, 7, 9], $grove->features());
        $grove->keep(2);
        self::assertSame([7, 9], $grove->features());
        foreach ([$grove->toArray(), Grove::unpacked($grove->toArray())] as $kept) {
            $back = Grove::fromArray($kept);
            self::assertSame([7, 9], $back->features());
            self::stump($back, 1);
            self::assertSame([1, 7, 9], $back->features());
        }
    }
}
