<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Format\ColumnEncoder;
use Dokimos\Core\Format\ColumnProfile;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A column described from its cells is described as when it was read. */
final class ColumnProfileTest extends TestCase
{
    /** @return iterable<string, array{Column}> */
    public static function columns(): iterable
    {
        $rows = range(0, 9999);
        $each = static fn (\Closure $cell): array => array_map($cell, $rows);
        yield 'numbers that repeat' => [new NumberColumn($each(static fn (int $i): float => 0 === $i % 7 ? \NAN : $i % 31 - 4.5))];
        yield 'numbers that do not' => [new NumberColumn($each(static fn (int $i): float => 0 === $i % 11 ? \NAN : sin($i) * 10 ** ($i % 9)))];
        yield 'zero twice' => [new NumberColumn([0.0, -0.0, 1e-300, 1e300, -1.0])];
        yield 'dates with and without an hour' => [new DateColumn($each(
            static fn (int $i): int => 0 === $i % 13 ? DateColumn::MISSING : 86400 * ($i % 900) + ($i % 2) * 3600,
        ))];
        yield 'dates before 1970' => [new DateColumn([-86400 * 30000, -1, 0, DateColumn::MISSING])];
        yield 'a category' => [new CodedColumn(
            $each(static fn (int $i): int => 0 === $i % 9 ? -1 : $i * $i % 5),
            ['north', 'Süd', '10', 'a longer one', 'east', 'nobody has it'],
        )];
        yield 'many values, more than are named' => [new CodedColumn($each(static fn (int $i): int => 499 - $i * $i % 500), array_map(
            static fn (int $k): string => "v$k",
            range(0, 499),
        ))];
        yield 'yes and no' => [new CodedColumn($each(static fn (int $i): int => $i % 3 - 1), ['yes', 'no'], Kind::YesNo)];
        yield 'text' => [new TextColumn($each(static fn (int $i): ?string => 0 === $i % 4 ? null : "Größe $i von ".$i % 17), Kind::Text)];
        yield 'a key' => [new TextColumn($each(static fn (int $i): string => "K$i"), Kind::Identifier)];
        foreach ([Kind::Number, Kind::Date, Kind::Category, Kind::Text] as $kind) {
            yield "nothing known, $kind->value" => [match ($kind) {
                Kind::Number => new NumberColumn([\NAN, \NAN]),
                Kind::Date => new DateColumn([DateColumn::MISSING]),
                Kind::Category => new CodedColumn([-1, -1], []),
                default => new TextColumn([null], $kind),
            }];
            yield "no rows, $kind->value" => [match ($kind) {
                Kind::Number => new NumberColumn([]),
                Kind::Date => new DateColumn([]),
                Kind::Category => new CodedColumn([], []),
                default => new TextColumn([], $kind),
            }];
        }
    }

    #[DataProvider('columns')]
    public function testItSaysWhatAnEncoderSays(Column $column): void
    {
        $encoder = new ColumnEncoder(new CellParser('.', ['']), $column->kind());
        for ($from = 0; $from < $column->count(); $from += 4096) {
            $encoder->take(array_map(
                static fn (int $row): string => $column->text($row) ?? '',
                range($from, min($from + 4096, $column->count()) - 1),
            ));
            $encoder->frame();
        }
        $read = $encoder->finish();
        $said = ColumnProfile::of($column);
        self::assertSame($read->levels, $said['levels']);
        self::assertSame(json_encode($read->profile, \JSON_THROW_ON_ERROR), json_encode($said['profile'], \JSON_THROW_ON_ERROR));
    }

    public function testWhatIsNoNumberIsMissing(): void
    {
        self::assertSame(2, ColumnProfile::of(new NumberColumn([1.0, \INF, -\INF]))['profile']['missing']);
    }
}
