<?php

declare(strict_types=1);

namespace App\Decision;

/** A record as a list shows it. */
final readonly class DecisionRowView
{
    /**
     * @param int           $number of the record in its table, from 1
     * @param ?int          $place  on the list, from 1; null where it is not on it
     * @param bool          $left   left untouched by draw
     * @param ?float        $value  null where it is not known
     * @param ?float        $return expected
     * @param ?int          $rank   tier, from 1 to 4
     * @param ?string       $action of several classes
     * @param list<?string> $cells  carried columns
     */
    public function __construct(
        public int $number,
        public ?int $place,
        public bool $left,
        public ?float $chance,
        public ?float $value,
        public ?float $return,
        public ?int $rank,
        public ?string $action,
        public string $because,
        public array $cells,
    ) {
    }
}
