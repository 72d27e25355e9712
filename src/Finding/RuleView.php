<?php

declare(strict_types=1);

namespace App\Finding;

/** A group in plain words, found on one half of the judged records and checked on the other. */
final readonly class RuleView
{
    /**
     * @param list<RuleCondition> $conditions all of which hold
     * @param ?string             $of         the class it is about; null of an event or a number
     * @param ?float              $found      share of events or of the class, or mean of the number, where it was found, with its interval
     * @param ?float              $check      the same on records it had not seen
     * @param ?float              $lift       the checked share against that of all; null of a number
     */
    public function __construct(public array $conditions, public ?string $of, public int $foundRows, public ?float $found, public ?float $foundLow, public ?float $foundHigh, public int $checkRows, public ?float $check, public ?float $checkLow, public ?float $checkHigh, public float $overall, public ?float $lift, public bool $held)
    {
    }
}
