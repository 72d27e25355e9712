<?php

declare(strict_types=1);

namespace App\Reasons;

/** A column of an imagined record, with the answers as it alone changes. */
final readonly class InputView
{
    /**
     * @param string       $kind   number, date, category, yes/no or text
     * @param ?string      $value  with the changes; null = missing
     * @param ?string      $before as it came
     * @param list<string> $levels that the curves go through, for a category
     * @param list<float>  $xs     for a number; for a date days since 1970
     * @param list<?float> $now    answers with the changes
     * @param list<?float> $then   answers as it came
     * @param ?float       $lost   what the ranking figure loses over all records when the column is shuffled
     * @param bool         $whole  whether it was only ever whole
     */
    public function __construct(
        public string $column,
        public string $kind,
        public ?string $value,
        public ?string $before,
        public array $levels,
        public array $xs,
        public array $now,
        public array $then,
        public ?float $lost,
        public bool $whole,
    ) {
    }
}
