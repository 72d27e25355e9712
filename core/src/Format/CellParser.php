<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Reads single cells as numbers, dates or yes/no; a cell that is none of it gives null. */
final readonly class CellParser
{
    private const CURRENCY = ['€', '$', '£', '¥', 'EUR', 'USD', 'GBP', 'CHF'];
    private const SAME = ['€' => 'EUR', '$' => 'USD', '£' => 'GBP'];
    private const YES_NO = [
        'yes' => true, 'no' => false, 'true' => true, 'false' => false, 'y' => true, 'n' => false, 't' => true, 'f' => false, 'on' => true, 'off' => false,
        'ja' => true, 'nein' => false, 'oui' => true, 'non' => false, 'sí' => true, 'si' => true, 'wahr' => true, 'falsch' => false, '1' => true, '0' => false,
    ];

    private const MONTHS = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december'];

    /** @var array<string, true> */
    private array $missing;

    /** @param list<string> $missing the cells that stand for "missing" */
    public function __construct(private string $decimal = '.', array $missing = Dialect::MISSING, private string $thousands = '', private string $dates = Dialect::DAY_FIRST)
    {
        $this->missing = array_fill_keys(array_map(strval(...), $missing), true);
    }

    public function isMissing(string $cell): bool
    {
        return isset($this->missing[trim($cell)]);
    }

    /**
     * A finite number. Percent signs, currency signs, thousands marks and parenthesized negatives are understood; numbers with
     * leading zeros and whole numbers beyond 2^53 are codes, not numbers.
     */
    public function number(string $cell): ?float
    {
        if ('.' === $this->decimal && is_numeric($cell)) {
            $value = (float) $cell;
            // The usual number needs no second look: no sign, no leading zero, not beyond 2^53.
            $first = \ord($cell);
            if ($first > 0x30 && $first <= 0x39 && $value < 9007199254740992.0) {
                return $value;
            }

            return self::checked(trim($cell));
        }
        // A no-break space has two bytes, one of which other letters begin with: trim() must not see it.
        $s = trim(str_replace(["\u{A0}", "\u{202F}"], ' ', $cell));
        if ('' === $s) {
            return null;
        }
        $sign = 1.0;
        if ('(' === $s[0] && ')' === $s[-1]) {
            $sign = -1.0;
            $s = trim(substr($s, 1, -1));
        }
        if (\strlen($s) > 40) {
            return null;
        }
        $factor = 1.0;
        if (str_ends_with($s, '%')) {
            $factor = 100.0;
            $s = rtrim(substr($s, 0, -1));
        }
        $s = self::withoutCurrency($s);
        if ('' !== $this->thousands && str_contains($s, $this->thousands) && 1 === preg_match('/^[-+]?\d{1,3}('.$this->thousands.'\d{3})+([.,]\d+)?$/', $s)) {
            $s = str_replace($this->thousands, '', $s);
        }
        if (',' === $this->decimal) {
            $s = 1 === preg_match('/^-?\d{1,3}(\.\d{3})+(,\d+)?$/', $s) ? str_replace('.', '', $s) : $s;
            if (str_contains($s, '.')) {
                return null;
            }
            $s = str_replace(',', '.', $s);
        } elseif (1 === preg_match('/^-?\d{1,3}(,\d{3})+(\.\d+)?$/', $s)) {
            $s = str_replace(',', '', $s);
        }
        $value = self::checked($s);

        return null === $value ? null : $sign * $value / $factor;
    }

    /** A currency stands before or after an amount, not in the middle of it. */
    private static function withoutCurrency(string $s): string
    {
        $mark = self::currency($s);
        if (null === $mark) {
            return $s;
        }
        $bare = str_starts_with(ltrim($s, '+-'), $mark) ? (string) preg_replace('/^([+-]?)'.preg_quote($mark, '/').'\s*/', '$1', $s) : substr($s, 0, -\strlen($mark));

        return trim($bare);
    }

    /** The currency of an amount, where it has one. */
    private static function currency(string $s): ?string
    {
        foreach (self::CURRENCY as $mark) {
            if (str_starts_with(ltrim($s, '+-'), $mark) || str_ends_with($s, $mark)) {
                return $mark;
            }
        }

        return null;
    }

    /** What is written around a number: "%", a currency, or nothing; null where the cell is no number. */
    public function mark(string $cell): ?string
    {
        if (null === $this->number($cell)) {
            return null;
        }
        $s = trim(str_replace(["\u{A0}", "\u{202F}"], ' ', $cell), " \t()");

        return str_ends_with($s, '%') ? '%' : self::SAME[$mark = self::currency($s) ?? ''] ?? $mark;
    }

    private static function checked(string $s): ?float
    {
        if (!is_numeric($s)) {
            return null;
        }
        $first = '-' === $s[0] || '+' === $s[0] ? 1 : 0;
        if ('0' === $s[$first] && isset($s[$first + 1]) && ctype_digit($s[$first + 1])) {
            return null;
        }
        $value = (float) $s;
        if (!($value < 9007199254740992.0 && $value > -9007199254740992.0) && (!is_finite($value) || ctype_digit(substr($s, $first)))) {
            return null;
        }

        return $value + 0.0;
    }

    /** Seconds of local civil time since 1970, from ISO dates, three numbers in the order of the file, and dates with the month's name. */
    public function date(string $cell): ?int
    {
        $s = trim($cell);
        $time = '(?:[T ] ?(\d{1,2}):(\d\d)(?::(\d\d)(?:[.,]\d+)?)?( ?[AaPp][Mm])?)?';
        if (1 === preg_match('#^(\d{4})([-/])(\d\d)\2(\d\d)'.$time.'$#', $s, $m)) {
            [$year, $month, $day] = [(int) $m[1], (int) $m[3], (int) $m[4]];
        } elseif (1 === preg_match('#^(\d{1,2})([./-])(\d{1,2})\2(\d{4})'.$time.'$#', $s, $m)) {
            [$day, $month, $year] = Dialect::MONTH_FIRST === $this->dates ? [(int) $m[3], (int) $m[1], (int) $m[4]] : [(int) $m[1], (int) $m[3], (int) $m[4]];
        } elseif (1 === preg_match('#^(\d{1,2})([ -])([A-Za-z]{3,9})\.?\2(\d{4})'.$time.'$#', $s, $m)) {
            [$day, $month, $year] = [(int) $m[1], self::month($m[3]), (int) $m[4]];
        } elseif (1 === preg_match('#^()([A-Za-z]{3,9})\.? (\d{1,2}), ?(\d{4})'.$time.'$#', $s, $m)) {
            [$day, $month, $year] = [(int) $m[3], self::month($m[2]), (int) $m[4]];
        } else {
            return null;
        }
        $hour = (int) ($m[5] ?? 0);
        $minute = (int) ($m[6] ?? 0);
        $second = (int) ($m[7] ?? 0);
        if ('' !== $half = strtolower(trim($m[8] ?? ''))) {
            // Twelve at night is 0, twelve at noon 12; there is no hour 0 or 13 on that clock.
            $hour = $hour < 1 || $hour > 12 ? 99 : $hour % 12 + ('pm' === $half ? 12 : 0);
        }
        if ($year < 1 || !checkdate($month, $day, $year) || $hour > 23 || $minute > 59 || $second > 59) {
            return null;
        }

        // By days of the calendar: the clock of the language takes the years 0 to 99 for those of our time.
        return 86400 * self::days($year, $month, $day) + 3600 * $hour + 60 * $minute + $second;
    }

    /** Its number, by the whole name or its first three letters (and "Sept"); 0 for another word. */
    private static function month(string $word): int
    {
        $word = strtolower($word);
        foreach (self::MONTHS as $i => $name) {
            if ($word === $name || $word === substr($name, 0, 3) || 'sept' === $word && 'september' === $name) {
                return $i + 1;
            }
        }

        return 0;
    }

    /** Days since 1 January 1970 in the Gregorian calendar, carried back (Hinnant 2013, days_from_civil). */
    private static function days(int $year, int $month, int $day): int
    {
        $year -= $month <= 2 ? 1 : 0;
        $era = intdiv($year, 400);
        $ofEra = $year - 400 * $era;
        $ofYear = intdiv(153 * ($month + ($month > 2 ? -3 : 9)) + 2, 5) + $day - 1;

        return 146097 * $era + 365 * $ofEra + intdiv($ofEra, 4) - intdiv($ofEra, 100) + $ofYear - 719468;
    }

    /**
     * What a date of three numbers would be with day and month the other way round; null where that cannot be.
     */
    public function otherWayRound(string $cell): ?int
    {
        if (1 !== preg_match('#^(\d{1,2})[./-](\d{1,2})[./-]\d{4}#', trim($cell), $m) || $m[1] === $m[2]) {
            return null;
        }

        return (new self(dates: Dialect::MONTH_FIRST === $this->dates ? Dialect::DAY_FIRST : Dialect::MONTH_FIRST))->date($cell);
    }

    /** @return array<array-key, bool> the usual spellings in lower case, and what they mean */
    public static function spellings(): array
    {
        return self::YES_NO;
    }

    /** Yes or no in their usual spellings; null when the cell says neither. */
    public static function yesNo(string $cell): ?bool
    {
        return self::YES_NO[mb_strtolower(trim($cell))] ?? null;
    }
}
