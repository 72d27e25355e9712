<?php

declare(strict_types=1);

namespace App\Recheck;

use Symfony\Component\Validator\Constraints as Assert;

/** Which newer records a trial is held against. */
final readonly class RecheckRequest
{
    /**
     * @param ?string      $by      column they are in order of; null = the first date there is
     * @param ?float       $matters the loss that matters, in units of the study's figure; null = half of what it gains over doing nothing
     * @param ?float       $cutoff  from which chance on an event is called; null = the one suggested for the trial
     * @param list<string> $groups  columns by whose values it is told too
     */
    public function __construct(
        #[Assert\Positive(message: 'Choose the newer records.')]
        public int $tableId = 0,
        public ?string $by = null,
        #[Assert\Positive(message: 'The loss that matters is above 0.')]
        public ?float $matters = null,
        #[Assert\Range(min: 0, max: 1, notInRangeMessage: 'A chance lies between 0 and 1.')]
        public ?float $cutoff = null,
        #[Assert\All([new Assert\Type('string')]), Assert\Count(max: 6)]
        public array $groups = [],
    ) {
    }
}
