<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Format;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Format\Dialect;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a single cell means. */
final class CellParserTest extends TestCase
{
    /** @return iterable<string, array{string, ?float}> cell and its number; null = no number */
    public static function numbers(): iterable
    {
        $cases = [
            ['0', 0.0], ['7', 7.0], ['-7', -7.0], ['+7', 7.0], ['3.25', 3.25], ['.5', 0.5], ['5.', 5.0], ['-0', 0.0], ['-0.0', 0.0],
            ['1e3', 1000.0], ['1E-3', 0.001], [' 42', 42.0], ['42 ', 42.0], ["\t42", 42.0], ['0.5', 0.5], ['-0.5', -0.5], ['0', 0.0], ['00', null],
            ['007', null], ['-007', null], ['0e5', 0.0], ['9007199254740991', 9007199254740991.0], ['9007199254740992', null], ['-9007199254740992', null],
            ['12345678901234567890', null], ['1e300', 1e300], ['1e400', null], ['-1e400', null], ['inf', null], ['nan', null], ['NaN', null], ['0x1F', null],
            ['1_000', null], ['12%', 0.12], ['12 %', 0.12], ['-5%', -0.05], ['€ 20', 20.0], ['20 €', 20.0], ['$3.50', 3.5], ['£7', 7.0], ['USD 8', 8.0],
            ['8 EUR', 8.0], ['(3)', -3.0], ['(1,234.5)', -1234.5], ['( 4 )', -4.0], ['1,234', 1234.0], ['1,234,567.25', 1234567.25], ['12,34', null], ['1,23', null],
            ['1234,567', null], [',5', null], ['1.2.3', null], ['--5', null], ['5-', null], ['1 000', null], ['', null], [' ', null], ['abc', null], ['5 kg', null],
            ['1e', null], ['e5', null], ['()', null], ['%', null], ['€', null], [str_repeat('9', 45), null], ["\u{A0}6\u{A0}", 6.0],
        ];
        foreach ($cases as $i => [$cell, $number]) {
            yield $i.' '.json_encode($cell) => [$cell, $number];
        }
    }

    #[DataProvider('numbers')]
    public function testNumbersWithAPoint(string $cell, ?float $number): void
    {
        self::assertSame($number, (new CellParser())->number($cell));
    }

    /** @return iterable<string, array{string, ?float}> */
    public static function commas(): iterable
    {
        foreach ([
            '1,5' => 1.5, '-1,5' => -1.5, '1.234,5' => 1234.5, '1.234.567' => 1234567.0, '1.234' => 1234.0, '12.34' => null, '0,5' => 0.5, '00,5' => null,
            '7' => 7.0, '1,2,3' => null, '12,5%' => 0.125, '(2,5)' => -2.5, '€ 3,20' => 3.2, '1e3' => 1000.0, 'drei' => null, '' => null,
        ] as $cell => $number) {
            yield json_encode((string) $cell, \JSON_THROW_ON_ERROR) => [(string) $cell, $number];
        }
    }

    #[DataProvider('commas')]
    public function testNumbersWithAComma(string $cell, ?float $number): void
    {
        self::assertSame($number, (new CellParser(','))->number($cell));
    }

    /** @return iterable<string, array{string, ?string}> cell and its moment; null = no date */
    public static function dates(): iterable
    {
        foreach ([
            '2026-03-14' => '2026-03-14 00:00:00', '2026-03-14T08:30' => '2026-03-14 08:30:00', '2026-03-14 08:30:15' => '2026-03-14 08:30:15', '2026-03-14T08:30:15.250' => '2026-03-14 08:30:15',
            '14.03.2026' => '2026-03-14 00:00:00', '4.3.2026' => '2026-03-04 00:00:00', '14/03/2026' => '2026-03-14 00:00:00', '14.03.2026 23:59' => '2026-03-14 23:59:00',
            '1970-01-01' => '1970-01-01 00:00:00', '1969-12-31' => '1969-12-31 00:00:00', '2024-02-29' => '2024-02-29 00:00:00', '1900-01-01' => '1900-01-01 00:00:00',
            ' 2026-03-14 ' => '2026-03-14 00:00:00', '2026-02-30' => null, '2025-02-29' => null, '2026-13-01' => null, '31.04.2026' => null, '2026-03-14 24:00' => null,
            '2026-03-14 10:60' => null, '2026-3-14' => null, '14-03-2026' => '2026-03-14 00:00:00', '2026/03/14' => '2026-03-14 00:00:00', '14.03/2026' => null, '14 Mar 2026' => '2026-03-14 00:00:00', '4-March-2026' => '2026-03-04 00:00:00', 'March 4, 2026 5:07 pm' => '2026-03-04 17:07:00', '14/03/2026 12:30 AM' => '2026-03-14 00:30:00', '14/03/2026 13:30 AM' => null, '14 Mai 2026' => null, '03/14/2026' => null, '20260314' => null, '2026' => null, 'March 2026' => null, '' => null, '00.00.0000' => null,
        ] as $cell => $moment) {
            yield (string) $cell => [(string) $cell, $moment];
        }
    }

    #[DataProvider('dates')]
    public function testDates(string $cell, ?string $moment): void
    {
        $seconds = (new CellParser())->date($cell);
        self::assertSame($moment, null === $seconds ? null : gmdate('Y-m-d H:i:s', $seconds));
    }

    public function testMonthFirstAndTheOtherWayRound(): void
    {
        $write = static fn (?int $s): ?string => null === $s ? null : gmdate('Y-m-d', $s);
        $month = new CellParser(dates: Dialect::MONTH_FIRST);
        self::assertSame(
            ['2026-03-04', '2026-03-14', null, '2026-03-14'],
            array_map(static fn (string $c) => $write($month->date($c)), ['03/04/2026', '03/14/2026', '14/03/2026', '2026-03-14']),
        );
        self::assertSame(
            ['2026-04-03', null, null, null],
            array_map(static fn (string $c) => $write($month->otherWayRound($c)), ['03/04/2026', '03/14/2026', '04/04/2026', '2026-03-04']),
        );
    }

    /** @return iterable<string, array{string, ?bool}> */
    public static function answers(): iterable
    {
        foreach ([
            'yes' => true,
            'YES' => true,
            ' yes ' => true,
            'y' => true,
            'true' => true,
            'True' => true,
            'no' => false,
            'N' => false,
            'FALSE' => false,
            'maybe' => null,
            '' => null,
            '1' => true,
            '0' => false,
            'Ja' => true,
            'NON' => false,
            'Sí' => true,
            'off' => false,
            '2' => null,
            'yes!' => null,
        ] as $cell => $answer) {
            yield json_encode((string) $cell, \JSON_THROW_ON_ERROR) => [(string) $cell, $answer];
        }
    }

    #[DataProvider('answers')]
    public function testYesAndNo(string $cell, ?bool $answer): void
    {
        self::assertSame($answer, CellParser::yesNo($cell));
    }

    public function testWhatStandsForMissing(): void
    {
        $parser = new CellParser();
        foreach (['', ' ', "\t", 'NA', ' NA ', 'N/A', 'n/a', 'NULL', 'null', 'NaN', 'nan', '#N/A'] as $cell) {
            self::assertTrue($parser->isMissing($cell), json_encode($cell, \JSON_THROW_ON_ERROR));
        }
        foreach (['0', 'no', 'none', '-', 'na', 'N A', 'missing', '?'] as $cell) {
            self::assertFalse($parser->isMissing($cell), $cell);
        }
        $own = new CellParser('.', ['-1', '99']);
        self::assertTrue($own->isMissing('-1') && $own->isMissing(' 99'));
        self::assertFalse($own->isMissing('NA') || $own->isMissing('-1.0'), 'only what was named');
    }

    /** Whatever is written by the usual means of the language is read back to the last bit. */
    public function testRandomNumbersComeBackToTheLastBit(): void
    {
        mt_srand(11);
        $parser = new CellParser();
        for ($i = 0; $i < 3000; ++$i) {
            $value = (mt_rand() - 2 ** 30) * 10.0 ** mt_rand(-12, 5);
            $written = json_encode($value, \JSON_THROW_ON_ERROR);
            if (abs($value) < 2 ** 53) {
                self::assertSame($value, $parser->number($written), $written);
            }
            $comma = str_replace('.', ',', \sprintf('%.3f', $value));
            self::assertSame((float) \sprintf('%.3f', $value) + 0.0, (new CellParser(','))->number($comma), $comma);
        }
    }

    public function testDatesOfAllYearsAreThoseOfTheCalendar(): void
    {
        $parser = new CellParser();
        mt_srand(12);
        for ($i = 0; $i < 400; ++$i) {
            $text = \sprintf(
                '%04d-%02d-%02d %02d:%02d:%02d',
                $i < 150 ? mt_rand(1, 120) : mt_rand(1, 9999),
                mt_rand(1, 12),
                mt_rand(1, 28),
                mt_rand(0, 23),
                mt_rand(0, 59),
                mt_rand(0, 59),
            );
            self::assertSame((new \DateTimeImmutable($text.' UTC'))->getTimestamp(), $parser->date($text), $text);
            self::assertSame($parser->date($text), $parser->date(str_replace(' ', 'T', $text)));
        }
        foreach ([
            '0000-01-01',
            '2023-02-29',
            '1900-02-29',
            '2026-13-01',
            '5 Mayor 2026',
            '6 Marble 2026',
            '7 Decoy 2026',
            '3 Marc 2026',
            'Julia 4, 2026',
        ] as $none) {
            self::assertNull($parser->date($none), $none);
        }
        foreach (['2000-02-29', '5 March 2026', '5 Mar 2026', '5 Sept 2026', 'May 4, 2026', '29 Feb 2024'] as $date) {
            self::assertNotNull($parser->date($date), $date);
        }
    }

    public function testACurrencyStandsAtOneEnd(): void
    {
        $parser = new CellParser();
        foreach ([
            '12€50' => null,
            '1$2' => null,
            '€' => null,
            '€€5' => null,
            'EUR 5' => 5.0,
            '5 EUR' => 5.0,
            '-€5' => -5.0,
            '€-5' => -5.0,
            '(€5)' => -5.0,
            '5€' => 5.0,
            '€ 1,234.50' => 1234.5,
        ] as $cell => $number) {
            self::assertSame($number, $parser->number((string) $cell), (string) $cell);
        }
        self::assertSame(['%', 'EUR', 'EUR', 'GBP', '', null], array_map($parser->mark(...), ['12.5 %', '€5', '5 EUR', '£3', '7', 'x']));
    }
}
