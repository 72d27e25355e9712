<?php

declare(strict_types=1);

namespace Dokimos\Core\Formula;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/**
 * The functions of formulas. A missing argument gives a missing result, but for what asks about missing cells. Each has the types it takes,
 * the type it gives ("same" is that of its first argument), and what it says of itself.
 */
final class Functions
{
    private const N = Cells::NUMBER;
    private const T = Cells::TEXT;
    private const D = Cells::DATE;
    private const Y = Cells::YES_NO;

    /** @var ?array<string, array{list<string>, int, string, \Closure, string}> */
    private static ?array $all = null;

    /** @return array<string, array{list<string>, int, string, \Closure, string}> types, least arguments, result, what is done with the values of one row, help */
    public static function all(): array
    {
        return self::$all ??= [
            'abs' => [[self::N], 1, self::N, static fn (float $x) => abs($x), 'abs(x): without its sign'],
            'round' => [[self::N, self::N], 1, self::N, static fn (float $x, float $d = 0.0) => round($x, (int) $d), 'round(x, digits)'],
            'floor' => [[self::N], 1, self::N, static fn (float $x) => floor($x), 'floor(x): the next whole number below'],
            'ceil' => [[self::N], 1, self::N, static fn (float $x) => ceil($x), 'ceil(x): the next whole number above'],
            'sqrt' => [[self::N], 1, self::N, static fn (float $x) => $x < 0 ? null : sqrt($x), 'sqrt(x): missing for numbers below 0'],
            'ln' => [[self::N], 1, self::N, static fn (float $x) => $x <= 0 ? null : log($x), 'ln(x): missing for numbers up to 0'],
            'log10' => [[self::N], 1, self::N, static fn (float $x) => $x <= 0 ? null : log10($x), 'log10(x): missing for numbers up to 0'],
            'exp' => [[self::N], 1, self::N, static fn (float $x) => exp($x), 'exp(x)'],
            'sign' => [[self::N], 1, self::N, static fn (float $x) => (float) ($x <=> 0.0), 'sign(x): -1, 0 or 1'],
            'min' => [[self::N, self::N], 2, self::N, static fn (float $a, float $b) => min($a, $b), 'min(a, b): the smaller one'],
            'max' => [[self::N, self::N], 2, self::N, static fn (float $a, float $b) => max($a, $b), 'max(a, b): the larger one'],
            'between' => [[self::N, self::N, self::N], 3, self::Y, static fn (float $x, float $a, float $b) => $x >= $a && $x <= $b, 'between(x, low, high): both ends belong to it'],
            'number' => [[self::T], 1, self::N, static fn (string $t) => (new CellParser())->number($t), 'number(text): missing where the text is none'],
            'length' => [[self::T], 1, self::N, static fn (string $t) => (float) mb_strlen($t), 'length(text): its letters'],
            'words' => [[self::T], 1, self::N, static fn (string $t) => (float) preg_match_all('/[\p{L}\p{M}\p{N}]+/u', $t), 'words(text): how many'],
            'lower' => [[self::T], 1, self::T, mb_strtolower(...), 'lower(text): in small letters'],
            'upper' => [[self::T], 1, self::T, mb_strtoupper(...), 'upper(text): in capital letters'],
            'trim' => [[self::T], 1, self::T, trim(...), 'trim(text): without blanks around it'],
            'has' => [[self::T, self::T], 2, self::Y, static fn (string $t, string $p) => '' !== $p && str_contains(mb_strtolower($t), mb_strtolower($p)), 'has(text, part), or text contains part: capital or small'],
            'begins' => [[self::T, self::T], 2, self::Y, static fn (string $t, string $p) => str_starts_with(mb_strtolower($t), mb_strtolower($p)), 'begins(text, part): capital or small'],
            'replace' => [[self::T, self::T, self::T], 3, self::T, static fn (string $t, string $a, string $b) => '' === $a ? $t : str_replace($a, $b, $t), 'replace(text, part, by)'],
            'part' => [[self::T, self::N, self::N], 3, self::T, static fn (string $t, float $from, float $n) => mb_substr($t, max(0, (int) $from - 1), max(0, (int) $n)), 'part(text, from, letters): counted from 1'],
            'date' => [[self::T], 1, self::D, static fn (string $t) => (new CellParser())->date($t), 'date("2026-03-14")'],
            'year' => [[self::D], 1, self::N, static fn (int $s) => (float) gmdate('Y', $s), 'year(date)'],
            'month' => [[self::D], 1, self::N, static fn (int $s) => (float) gmdate('n', $s), 'month(date): 1 to 12'],
            'day' => [[self::D], 1, self::N, static fn (int $s) => (float) gmdate('j', $s), 'day(date): of the month'],
            'hour' => [[self::D], 1, self::N, static fn (int $s) => (float) gmdate('G', $s), 'hour(date): 0 to 23'],
            'weekday' => [[self::D], 1, self::N, static fn (int $s) => (float) gmdate('N', $s), 'weekday(date): 1 is Monday'],
            'days' => [[self::D, self::D], 2, self::N, static fn (int $a, int $b) => (float) (($b - $a) / DateColumn::DAY), 'days(from, to): days between, negative when reversed'],
            'as_text' => [['any'], 1, self::T, self::text(...), 'as_text(x): as it is written'],
        ];
    }

    /** @return list<string> one line each, with what the language itself brings */
    public static function help(): array
    {
        return [...array_column(self::all(), 4), 'missing(x): yes where x is missing', 'first_known(a, b): b where a is missing', 'col("any name"): a column whose name is not a plain word', 'if ? then : else'];
    }

    private static function text(float|string|int|bool $value): string
    {
        return match (true) {
            \is_float($value) => NumberColumn::write($value),
            \is_int($value) => DateColumn::write($value),
            \is_bool($value) => $value ? 'yes' : 'no',
            default => $value,
        };
    }
}
