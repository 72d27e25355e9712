<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Design;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\LevelOrder;
use Dokimos\Core\Prepare\FittedBins;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Bins are told in their order, whatever their letters. */
final class LevelOrderTest extends TestCase
{
    /** @return iterable<string, array{list<string>}> levels as they should stand */
    public static function orders(): iterable
    {
        yield 'bins' => [FittedBins::labels([-12.5, 0.0, 3.0, 20.0, 100.0])];
        yield 'bins of large and small numbers' => [FittedBins::labels([-1e-7, 1.5e-5, 0.3, 4e7])];
        yield 'bins, and what was filled in' => [[...FittedBins::labels([5.0, 40.0]), 'none']];
        yield 'names' => [['Beta', 'alpha', 'over 9']];
        yield 'numbers as texts' => [['10', '9']];
    }

    /** @param list<string> $levels */
    #[DataProvider('orders')]
    public function testLevelsStandInTheirOrder(array $levels): void
    {
        $mixed = $levels;
        rsort($mixed, \SORT_STRING);
        self::assertSame($levels, LevelOrder::of($mixed));
        self::assertSame($levels, LevelOrder::of(array_reverse($levels)));
    }

    public function testNumbersWithinTextsCountWhereTheyAreAskedFor(): void
    {
        self::assertSame(['size 9', 'size 10'], LevelOrder::of(['size 10', 'size 9'], true));
    }

    public function testTermsOfARegressionFollow(): void
    {
        $table = (new FittedBins(
            ['x' => [3.0, 20.0, 100.0]],
            false,
            'own',
        ))->apply(Table::of(['x' => new NumberColumn([150.0, 2.0, 30.0, 7.0, 1.0, 200.0, 50.0, 8.0])]));
        $coding = Coding::learn($table, ['x'], range(0, 7));
        self::assertSame(['x' => ['up to 3', 'over 3 to 20', 'over 20 to 100', 'over 100']], $coding->levels);
    }
}
