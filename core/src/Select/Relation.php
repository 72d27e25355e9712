<?php

declare(strict_types=1);

namespace Dokimos\Core\Select;

use Dokimos\Core\Table\Kind;

/** How a cell is compared; the words are those of the sentence a condition reads as. */
enum Relation: string
{
    case Is = 'is';
    case IsNot = 'is not';
    case Over = 'is over';
    case AtLeast = 'is at least';
    case Under = 'is under';
    case AtMost = 'is at most';
    case Between = 'is between';
    case After = 'is after';
    case OnOrAfter = 'is on or after';
    case Before = 'is before';
    case OnOrBefore = 'is on or before';
    case OneOf = 'is one of';
    case NoneOf = 'is none of';
    case Contains = 'contains';
    case ContainsNot = 'does not contain';
    case Begins = 'begins with';
    case Missing = 'is missing';
    case Present = 'is present';

    /** @return list<self> those that make sense for a kind, the most usual first */
    public static function for(Kind $kind): array
    {
        return match ($kind) {
            Kind::Number => [self::Over, self::AtLeast, self::Under, self::AtMost, self::Between, self::Is, self::IsNot, self::Missing, self::Present],
            Kind::Date => [self::After, self::OnOrAfter, self::Before, self::OnOrBefore, self::Between, self::Is, self::IsNot, self::Missing, self::Present],
            Kind::Text, Kind::Identifier => [self::Contains, self::ContainsNot, self::Begins, self::Is, self::IsNot, self::OneOf, self::NoneOf, self::Missing, self::Present],
            default => [self::Is, self::IsNot, self::OneOf, self::NoneOf, self::Missing, self::Present],
        };
    }

    /** @return array{int, int} fewest and most values it takes */
    public function values(): array
    {
        return match ($this) {
            self::Missing, self::Present => [0, 0],
            self::Between => [2, 2],
            self::OneOf, self::NoneOf => [1, 200],
            default => [1, 1],
        };
    }
}
