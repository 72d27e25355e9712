<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Reads single cells as numbers, dates or yes/no; a cell that is none of it gives null. */
final readonly class CellParser
{
    private const CURRENCY = ['€', '$', '£', '¥', 'EUR', 'USD', 'GBP', 'CHF'];
    private const YES_NO = ['yes' => true, 'no' => false, 'true' => true, 'false' => false, 'y' => true, 'n' => false];

    /** @var array<string, true> */
    private array $missing;

    /** @param list<string> $missing the cells that stand for "missing" */
    public function __construct(private string $decimal = '.', array $missing = Dialect::MISSING, private string $thousands = '')
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
        $s = trim(str_replace(self::CURRENCY, '', $s));
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

    /** Seconds of local civil time since 1970, from ISO dates and day.month.year or day/month/year. */
    public function date(string $cell): ?int
    {
        $s = trim($cell);
        if (1 === preg_match('/^(\d{4})-(\d\d)-(\d\d)(?:[T ](\d\d):(\d\d)(?::(\d\d)(?:\.\d+)?)?)?$/', $s, $m)) {
            [$year, $month, $day] = [(int) $m[1], (int) $m[2], (int) $m[3]];
        } elseif (1 === preg_match('#^(\d{1,2})[./](\d{1,2})[./](\d{4})(?: (\d\d):(\d\d)(?::(\d\d))?)?$#', $s, $m)) {
            [$day, $month, $year] = [(int) $m[1], (int) $m[2], (int) $m[3]];
        } else {
            return null;
        }
        $hour = (int) ($m[4] ?? 0);
        $minute = (int) ($m[5] ?? 0);
        $second = (int) ($m[6] ?? 0);
        if (!checkdate($month, $day, max(1, $year)) || $hour > 23 || $minute > 59 || $second > 59) {
            return null;
        }

        return gmmktime($hour, $minute, $second, $month, $day, $year) ?: (1970 === $year ? 0 : null);
    }

    /** The lower-case spelling when the cell says yes or no. */
    public function yesNo(string $cell): ?bool
    {
        return self::YES_NO[strtolower(trim($cell))] ?? null;
    }
}
