<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\TrialView;
use Dokimos\Core\Measure\Interval;

/** Two to four trials on the rows that all of them had not seen and can answer for; the first is what the others are held against. */
final readonly class SideBySideView
{
    /**
     * @param list<TrialView>         $trials   the first is what the others are held against
     * @param ?float                  $at       calls of an event, or the error of a number, at which records part; null for several classes
     * @param list<FigureBesideView>  $figures
     * @param list<float>             $xs       records called or named, or sizes of an error, rising
     * @param int                     $of       events, or rows, that could be reached
     * @param list<list<float>>       $reached  per trial: share of what could be reached up to each x
     * @param list<list<Interval>>    $less     per other trial: its share less that of the first, with the interval of this x alone
     * @param list<SettingBesideView> $settings
     * @param list<LeanBesideView>    $leans    what the ranking figure loses when a column is shuffled, most first
     * @param list<PartView>          $parts    rows by which of the trials call them, or are right; most first
     */
    public function __construct(
        public string $task,
        public ?string $event,
        public int $rows,
        public array $trials,
        public ?float $at,
        public ?float $cutoff,
        public array $figures,
        public array $xs,
        public int $of,
        public array $reached,
        public array $less,
        public array $settings,
        public array $leans,
        public array $parts,
    ) {
    }
}
