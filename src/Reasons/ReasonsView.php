<?php

declare(strict_types=1);

namespace App\Reasons;

/** Why a model answers as it does for one record. */
final readonly class ReasonsView
{
    /**
     * @param list<ContributionView>     $contributions strongest first, against the average training record: log-odds of an event, a number in its own unit
     * @param array<string, string|null> $record        the cells as they came
     * @param ?float                     $answer        what is predicted of a number
     * @param list<ClassShareView>       $shares        of several classes
     * @param ?string                    $path          what leads to the answer of a tree or of rules
     * @param ?AccountView               $account       the answer shared out among columns, for every learner; null where there is no
     *                                                  answer
     * @param list<SeenCell>             $made          what the model reads and preparation has made or changed
     * @param float                      $likeness      share of open records that lie in a thinner place
     * @param ?float                     $uncalibrated  the chance as the model gives it, which the contributions add up to; null when it is the same
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
        public string $task,
        public string $target,
        public string $learner,
        public ?float $answer,
        public ?string $class,
        public array $shares,
        public ?string $path,
        public ?float $uncalibrated,
        public ?AccountView $account,
        public ?SureView $sure,
        public float $likeness,
        public NeighborsView $neighbors,
        public array $made,
    ) {
    }
}
