<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\KindFits;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use PHPUnit\Framework\TestCase;

final class KindFitsTest extends TestCase
{
    public function testCountsTheCellsThatFitEachKind(): void
    {
        $mixed = CodedColumn::fromCells(['1', 'yes', '2026-01-02', 'word', null, '1', '7.5', 'no']);
        self::assertSame(['cells' => 7, 'number' => 3, 'date' => 1, 'yesNo' => 4], KindFits::of($mixed), '1 may be a number and a yes');
        self::assertSame(['cells' => 5, 'number' => 2, 'date' => 0, 'yesNo' => 1], KindFits::of(new NumberColumn([1.0, \NAN, 1e-7]), 3));
        self::assertSame(['cells' => 1, 'number' => 0, 'date' => 1, 'yesNo' => 0], KindFits::of(new DateColumn([DateColumn::MISSING, 5])));
    }
}
