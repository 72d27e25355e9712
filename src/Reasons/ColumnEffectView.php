<?php

declare(strict_types=1);

namespace App\Reasons;

/** What the answers do as one column changes and all others stay. */
final readonly class ColumnEffectView
{
    /**
     * @param string           $kind        number, date or category
     * @param list<float>      $xs          values of a number; of a date days since 1970
     * @param list<string>     $levels      of a category
     * @param list<?float>     $mean        of the answers over the background
     * @param list<?float>     $low         95 % of the mean, for the change against the records' own means
     * @param list<?float>     $high
     * @param list<SingleView> $singles     of some background records
     * @param list<SingleView> $named       of records asked for
     * @param list<float>      $edges       of the accumulated local effects
     * @param list<float>      $accumulated at the edges, laid at the height of the mean
     * @param list<int>        $counts      records seen, by range between values of a number (each value's own neighborhood) or by level
     * @param ?float           $from        the stretch over which it changes most
     * @param ?float           $change      over that stretch
     * @param string           $says        in a sentence
     * @param ?string          $warns       where both ways disagree, and why
     */
    public function __construct(
        public string $column,
        public string $kind,
        public array $xs,
        public array $levels,
        public array $mean,
        public array $low,
        public array $high,
        public array $singles,
        public array $named,
        public array $edges,
        public array $accumulated,
        public array $counts,
        public ?float $from,
        public ?float $to,
        public ?float $change,
        public string $says,
        public ?string $warns,
    ) {
    }
}
