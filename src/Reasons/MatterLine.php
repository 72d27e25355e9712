<?php

declare(strict_types=1);

namespace App\Reasons;

/** What a column matters over all records, three ways, each with its own unit. */
final readonly class MatterLine
{
    /**
     * @param ?float                    $lost    of the ranking figure when it is shuffled, on rows the judged models had not seen, with its
     *                                           interval
     * @param float                     $moves   mean size of its effect on single answers: points of chance, or the unit of the number
     * @param ?float                    $inModel share of the model's own importance; null where it has none
     * @param string                    $goes    which way the answer goes with it, in words
     * @param list<array{float, float}> $spread  per record looked at its effect, and where its value stands among the others, from 0 to 1
     * @param list<string>              $with    columns that the model takes it together with: what it moves is theirs, too
     */
    public function __construct(
        public string $column,
        public ?float $lost,
        public ?float $low,
        public ?float $high,
        public float $moves,
        public ?float $inModel,
        public string $goes,
        public array $spread,
        public array $with,
    ) {
    }
}
