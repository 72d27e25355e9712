<?php

declare(strict_types=1);

namespace App\Reasons;

/** Why a model gives one record its chance. */
final readonly class ReasonsView
{
    /**
     * @param list<ContributionView>     $contributions strongest first; log-odds against the average training record
     * @param array<string, string|null> $record        the cells as they came
     */
    public function __construct(
        public int $trialId,
        public int $trialNumber,
        public string $event,
        public int $number,
        public int $rows,
        public bool $sealed,
        public ?float $chance,
        public ?float $low,
        public ?float $high,
        public float $baseRate,
        public ?float $base,
        public ?float $logOdds,
        public ?string $why,
        public string $sentence,
        public array $contributions,
        public array $record,
    ) {
    }
}
