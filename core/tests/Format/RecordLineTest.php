<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\RecordLine;
use Dokimos\Core\Table\Kind;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A record as a line of JSON. */
final class RecordLineTest extends TestCase
{
    /** @return iterable<string, array{Kind, ?string, mixed}> */
    public static function cells(): iterable
    {
        yield 'a number' => [Kind::Number, '12.50', 12.5];
        yield 'a whole number' => [Kind::Number, '7', 7.0];
        yield 'a small number' => [Kind::Number, '1e-9', 1e-9];
        yield 'missing' => [Kind::Number, null, null];
        yield 'yes' => [Kind::YesNo, 'Yes', true];
        yield 'no' => [Kind::YesNo, 'n', false];
        yield 'neither' => [Kind::YesNo, 'perhaps', 'perhaps'];
        yield 'a code with zeros in front' => [Kind::Identifier, '00012', '00012'];
        yield 'a date' => [Kind::Date, '2026-03-14', '2026-03-14'];
        yield 'what a spreadsheet would run' => [Kind::Text, '=1+1', '=1+1'];
        yield 'lines and quotes' => [Kind::Text, "a \"b\"\nc/d", "a \"b\"\nc/d"];
        yield 'letters of the world' => [Kind::Category, 'Straße Łódź 東京', 'Straße Łódź 東京'];
        yield 'empty' => [Kind::Text, '', ''];
    }

    #[DataProvider('cells')]
    public function testACellIsWhatItsKindSays(Kind $kind, ?string $cell, mixed $told): void
    {
        $line = RecordLine::of(['a name'], [$kind], [$cell]);
        self::assertStringEndsWith("}\n", $line);
        self::assertSame(1, substr_count($line, "\n"), 'a record is a line');
        $read = json_decode($line, false, 4, \JSON_THROW_ON_ERROR);
        self::assertInstanceOf(\stdClass::class, $read);
        // JSON has one sort of numbers.
        \is_float($told) ? self::assertEqualsWithDelta($told, $read->{'a name'}, 0.0) : self::assertSame($told, $read->{'a name'});
    }

    public function testNamesThatAreNumbersAndTheirOrderStay(): void
    {
        $line = RecordLine::of(['2', '1', 'x'], [Kind::Text, Kind::Text, Kind::Text], ['a', 'b', null]);
        self::assertSame("{\"2\":\"a\",\"1\":\"b\",\"x\":null}\n", $line);
    }
}
