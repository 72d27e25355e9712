<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Formula;

use Dokimos\Core\Formula\Formula;
use Dokimos\Core\Formula\Functions;
use Dokimos\Core\Formula\WrongFormula;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Formulas over columns: what they give, what missing cells do, what is refused and where. */
final class FormulaTest extends TestCase
{
    private static function table(): Table
    {
        return Table::of([
            'a' => new NumberColumn([1.0, -2.5, \NAN, 0.0]),
            'b' => new NumberColumn([2.0, 0.0, 3.0, \NAN]),
            'color' => CodedColumn::fromCells(['red', 'Blue', null, 'red']),
            'ok' => CodedColumn::fromCells(['yes', 'no', null, 'yes'], Kind::YesNo),
            'day' => new DateColumn([0, 86400 * 59 + 3600 * 7, DateColumn::MISSING, 86400 * 365]),
            'note' => new TextColumn([' Two words ', 'no', null, 'été 2026']),
            'odd name' => new NumberColumn([5.0, 6.0, 7.0, 8.0]),
            '2024' => new NumberColumn([9.0, 9.0, 9.0, 9.0]),
        ]);
    }

    /** @return iterable<string, array{string, list<string>, Kind}> formula, cells ("–" = missing), kind */
    public static function formulas(): iterable
    {
        $cases = [
            ['a + b * 2', ['5', '-2.5', '–', '–'], Kind::Number],
            ['(a + b) / b', ['1.5', '–', '–', '–'], Kind::Number],
            // The sign binds more tightly than the power.
            ['-a ** 2', ['1', '6.25', '–', '0'], Kind::Number],
            ['7 % b', ['1', '–', '1', '–'], Kind::Number],
            ['a / 0', ['–', '–', '–', '–'], Kind::Number],
            ['10 ** 400', ['–', '–', '–', '–'], Kind::Number],
            ['a > 0', ['yes', 'no', '–', 'no'], Kind::YesNo],
            ['a >= 0 and b > 1', ['yes', 'no', '–', '–'], Kind::YesNo],
            // "No" is certain whatever the missing one is; so is "yes" of an "or".
            ['a < 0 and b > 1', ['no', 'no', '–', 'no'], Kind::YesNo],
            ['a == 0 or b == 3', ['no', 'no', 'yes', 'yes'], Kind::YesNo],
            ['not ok', ['no', 'yes', '–', 'no'], Kind::YesNo],
            ['color == "red"', ['yes', 'no', '–', 'yes'], Kind::YesNo],
            ['color in ["red", "Blue"]', ['yes', 'yes', '–', 'yes'], Kind::YesNo],
            ['a not in [1, 0]', ['no', 'yes', '–', 'no'], Kind::YesNo],
            ['a > 0 ? "plus" : "not"', ['plus', 'not', '–', 'not'], Kind::Category],
            ['missing(a) ? b : a', ['1', '-2.5', '3', '0'], Kind::Number],
            ['first_known(a, b)', ['1', '-2.5', '3', '0'], Kind::Number],
            ['a ?? 4', ['1', '-2.5', '4', '0'], Kind::Number],
            ['missing(color) or missing(b)', ['no', 'no', 'yes', 'yes'], Kind::YesNo],
            ['a > 0 ? null : a', ['–', '-2.5', '–', '0'], Kind::Number],
            ['col("odd name") + col("2024")', ['14', '15', '16', '17'], Kind::Number],
            ['abs(a) + sign(a)', ['2', '1.5', '–', '0'], Kind::Number],
            ['round(a * 1.26, 1)', ['1.3', '-3.2', '–', '0'], Kind::Number],
            ['round(a)', ['1', '-3', '–', '0'], Kind::Number],
            ['floor(a) + ceil(a)', ['2', '-5', '–', '0'], Kind::Number],
            ['sqrt(a)', ['1', '–', '–', '0'], Kind::Number],
            ['ln(exp(b))', ['2', '0', '3', '–'], Kind::Number],
            ['log10(b * 50)', ['2', '–', '2.1760912590556813', '–'], Kind::Number],
            ['min(a, b) + max(a, b)', ['3', '-2.5', '–', '–'], Kind::Number],
            ['between(a, 0, 1)', ['yes', 'no', '–', 'yes'], Kind::YesNo],
            ['upper(trim(note)) ~ "!"', ['TWO WORDS!', 'NO!', '–', 'ÉTÉ 2026!'], Kind::Category],
            ['length(note) + words(note)', ['13', '3', '–', '10'], Kind::Number],
            ['has(note, "WORD")', ['yes', 'no', '–', 'no'], Kind::YesNo],
            ['note contains "WORD" or color starts with "B"', ['yes', 'yes', '–', 'no'], Kind::YesNo],
            ['begins(lower(color), "b")', ['no', 'yes', '–', 'no'], Kind::YesNo],
            ['replace(color, "e", "a")', ['rad', 'Blua', '–', 'rad'], Kind::Category],
            ['part(note, 5, 4)', [' wor', '–', '–', '2026'], Kind::Category],
            ['number(part(note, 5, 4)) + 1', ['–', '–', '–', '2027'], Kind::Number],
            ['year(day) * 100 + month(day)', ['197001', '197003', '–', '197101'], Kind::Number],
            ['weekday(day)', ['4', '7', '–', '5'], Kind::Number],
            ['hour(day) + day(day)', ['1', '8', '–', '1'], Kind::Number],
            ['days(date("1970-01-01"), day)', ['0', '59.291666666666664', '–', '365'], Kind::Number],
            ['day >= "1970-03-01"', ['no', 'yes', '–', 'yes'], Kind::YesNo],
            ['as_text(a) ~ " " ~ as_text(day)', ['1 1970-01-01', '-2.5 1970-03-01T07:00:00', '–', '0 1971-01-01'], Kind::Category],
            ['color', ['red', 'Blue', '–', 'red'], Kind::Category],
            ['1', ['1', '1', '1', '1'], Kind::Number],
            ['day', ['1970-01-01', '1970-03-01T07:00:00', '–', '1971-01-01'], Kind::Date],
            ['ok xor a > 0', ['no', 'no', '–', 'yes'], Kind::YesNo],
        ];
        foreach ($cases as $case) {
            yield $case[0] => $case;
        }
    }

    /** @param list<string> $cells */
    #[DataProvider('formulas')]
    public function testWhatAFormulaGives(string $formula, array $cells, Kind $kind): void
    {
        $made = (new Formula($formula, self::table()->names()))->apply(self::table());
        self::assertSame($cells, array_map(static fn (int $row) => $made->text($row) ?? '–', range(0, 3)));
        self::assertSame($kind, $made->kind());
        self::assertSame(0, (new Formula($formula, self::table()->names()))->apply(self::table()->take([]))->count(), 'no row');
    }

    /** @return iterable<string, array{string, string, ?int}> formula, what is said, letters before the place */
    public static function mistakes(): iterable
    {
        $cases = [
            ['', 'Write a formula', 0],
            ['a +', 'Unexpected token', 3],
            ['a + (b', 'Unclosed', 3],
            ['a + colour', 'At letter 5: There is no column colour; did you mean color?', 4],
            ['a + rnd(b)', 'There is no function rnd', 4],
            ['abs(a) + roun(b)', 'There is no function roun; did you mean round?', 9],
            ['a + "x"', '+ needs a number, not a text.', null],
            ['color > 3', 'A text and A number cannot be compared', null],
            ['ok + 1', '+ needs a number, not yes or no', null],
            ['a and ok', 'and needs yes or no, not a number', null],
            ['a ? 1 : 2', '? needs yes or no, not a number', null],
            ['ok ? 1 : "x"', 'A number and A text cannot stand in one column', null],
            ['round(a, 1, 2)', 'round() takes 1 to 2 arguments', null],
            ['abs()', 'abs() takes one argument', null],
            ['year(a)', 'year() needs a date, not a number', null],
            ['col(color)', 'col() takes the name of a column in quotes', null],
            ['col("gone")', 'There is no column gone at this point', null],
            ['a in 3', 'After "in" stands a list', null],
            ['a in []', 'The list is empty', null],
            ['[1, 2]', 'Only columns, numbers, texts', null],
            ['a.b', 'Only columns, numbers, texts', null],
            ['a["x"]', 'Only columns, numbers, texts', null],
            ['note.format("c")', 'Only columns, numbers, texts', null],
            ['constant("PHP_VERSION")', 'There is no function constant', 0],
            ['enum("X::Y")', 'There is no function enum', 0],
            ['system("id")', 'There is no function system', 0],
            ['a matches "/x/e"', 'cannot stand in a formula', null],
            ['1..5', 'cannot stand in a formula', null],
            ['a & 1', 'cannot stand in a formula', null],
            [str_repeat('(', 300).'a'.str_repeat(')', 300).str_repeat(' + 1', 250), 'nested too deeply', 256],
            [str_repeat('a + ', 2000).'a', 'at most 4,000 letters', null],
        ];
        foreach ($cases as $case) {
            yield mb_strimwidth($case[0], 0, 40) => $case;
        }
    }

    #[DataProvider('mistakes')]
    public function testAMistakeIsSaidWithItsPlace(string $formula, string $says, ?int $at): void
    {
        try {
            (new Formula($formula, self::table()->names()))->apply(self::table());
            self::fail('It was computed.');
        } catch (WrongFormula $e) {
            self::assertStringContainsString($says, $e->getMessage());
            self::assertSame($at, $e->at);
        }
    }

    public function testTheColumnsOfAFormulaAreKnown(): void
    {
        self::assertSame(
            ['a', 'odd name', 'color'],
            (new Formula('a > 0 ? col("odd name") : (missing(color) ? a : 1)', self::table()->names()))->columns(),
        );
    }

    public function testEveryFunctionIsTriedAndExplained(): void
    {
        $tried = implode(' ', array_keys(iterator_to_array(self::formulas())));
        foreach (array_keys(Functions::all()) as $name) {
            self::assertMatchesRegularExpression('/\b'.$name.'\(/', $tried, $name.' is tried');
            self::assertStringContainsString($name.'(', implode(' ', Functions::help()));
        }
    }
}
