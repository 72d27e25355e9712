<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Task;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Events;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class EventsTest extends TestCase
{
    /** @return iterable<string, array{Column, string, list<?float>}> null = not known */
    public static function columns(): iterable
    {
        yield 'a category' => [new CodedColumn([0, -1, 1, 0], ['yes', 'no'], Kind::Category), 'no', [0.0, null, 1.0, 0.0]];
        yield 'an event nobody has' => [new CodedColumn([0, 1], ['yes', 'no'], Kind::YesNo), 'maybe', [0.0, 0.0]];
        yield 'a number as it is written' => [new NumberColumn([1.0, 0.0, \NAN, 1.5]), '1', [1.0, 0.0, null, 0.0]];
        yield 'a number written otherwise' => [new NumberColumn([1.0, 0.0]), '1.0', [0.0, 0.0]];
        yield 'text, also empty' => [new TextColumn(['a', null, '', 'A'], Kind::Text), 'a', [1.0, null, 0.0, 0.0]];
        yield 'a date' => [new DateColumn([0, DateColumn::MISSING, 86400]), '1970-01-02', [0.0, null, 1.0]];
        yield 'nothing' => [new NumberColumn([]), '1', []];
    }

    /** @param list<?float> $wanted */
    #[DataProvider('columns')]
    public function testOneForTheEventAndNothingForWhatIsNotKnown(Column $cells, string $event, array $wanted): void
    {
        $found = Events::in($cells, $event);
        self::assertSame($wanted, array_map(static fn (float $y): ?float => is_nan($y) ? null : $y, $found));
    }
}
