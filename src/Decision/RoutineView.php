<?php

declare(strict_types=1);

namespace App\Decision;

use App\Job\Job;

/** A routine with what its last run came to. */
final readonly class RoutineView
{
    /**
     * @param ?string      $nextAt   when it comes by itself; null = by hand
     * @param string       $says     of its last run; empty before the first
     * @param list<string> $warnings of its last run
     * @param ?int         $jobId    of the run under way
     */
    public function __construct(
        public int $id,
        public string $name,
        public string $owner,
        public int $trialNumber,
        public string $table,
        public string $when,
        public ?string $nextAt,
        public ?string $lastAt,
        public bool $failed,
        public string $says,
        public array $warnings,
        public ?int $scoringId,
        public ?int $decisionId,
        public ?int $tableId,
        public ?int $jobId,
    ) {
    }

    public static function of(Routine $routine, ?Job $running): self
    {
        $last = $routine->last();
        $plan = $routine->plan();

        return new self(
            $routine->id(),
            $routine->name(),
            $routine->user()->name(),
            $routine->trial()->number(),
            $plan->table,
            $plan->when,
            $routine->nextAt()?->format(\DATE_ATOM),
            $last['at'] ?? null,
            $last['failed'] ?? false,
            $last['says'] ?? '',
            $last['warnings'] ?? [],
            $last['scoring'] ?? null,
            $last['decision'] ?? null,
            $last['tableId'] ?? null,
            $running?->id(),
        );
    }
}
