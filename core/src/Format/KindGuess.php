<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/** Which kind and use are proposed for a column; both can be changed in the Register. */
final class KindGuess
{
    /** Different values, at most, of a category. */
    public const MOST_CATEGORIES = 1000;
    /** So many are a category whatever the number of records. */
    private const ALWAYS_CATEGORIES = 30;
    /** More of them are one while each occurs ten times on average. */
    private const CATEGORY_SHARE = 0.1;
    /** Letters of a cell on average, at most, of a category with few values, and with many. */
    private const LETTERS_OF_FEW = 40;
    private const LETTERS_OF_MANY = 12;
    private const FEW = 100;
    /** Records, at least, that all differ in an identifier; and its letters at most. */
    private const IDENTIFIER_FROM = 20;
    private const IDENTIFIER_LETTERS = 64;
    /** Values looked at to tell amounts; and the share of them from which on all are. */
    public const LOOKED_AT = 200;
    private const AMOUNTS = 0.8;

    /**
     * Of cells that are neither all numbers nor all dates.
     *
     * @param int          $known    cells that are not missing
     * @param int          $distinct different ones
     * @param bool         $yesNo    whether all say yes or no
     * @param bool         $spaces   whether some hold a blank
     * @param int          $longest  letters of the longest
     * @param int          $letters  of all together
     * @param list<string> $some     of the different ones
     */
    public static function ofTexts(int $known, int $distinct, bool $yesNo, bool $spaces, int $longest, int $letters, array $some): Kind
    {
        return match (true) {
            $yesNo && $distinct <= 2 && $known > 0 => Kind::YesNo,
            $distinct === $known && $known >= self::IDENTIFIER_FROM && !$spaces && $longest <= self::IDENTIFIER_LETTERS && !self::areAmounts($some) => Kind::Identifier,
            $distinct <= self::MOST_CATEGORIES && ($distinct <= self::ALWAYS_CATEGORIES || $distinct <= self::CATEGORY_SHARE * $known) && $letters <= ($distinct <= self::FEW ? self::LETTERS_OF_FEW : self::LETTERS_OF_MANY) * $known => Kind::Category,
            default => Kind::Text,
        };
    }

    public static function use(Kind $kind): ColumnUse
    {
        return Kind::Identifier === $kind ? ColumnUse::Key : ColumnUse::Input;
    }

    /**
     * Whether most cells are amounts in another country's writing: no key, whatever they are.
     *
     * @param list<string> $some
     */
    private static function areAmounts(array $some): bool
    {
        $amounts = \count(preg_grep('/^[(€$£¥]?-?\d{1,3}([.,\x27 ]\d{3})*[.,]\d{1,4}[)%€$£¥]?$/u', $some) ?: []);

        return [] !== $some && $amounts >= self::AMOUNTS * \count($some);
    }
}
