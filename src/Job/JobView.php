<?php

declare(strict_types=1);

namespace App\Job;

/** Long work as a person sees it. */
final readonly class JobView
{
    /**
     * @param float        $share       0 to 1
     * @param ?float       $secondsLeft from the pieces measured so far
     * @param ?FigureSoFar $soFar       only while the work is running
     */
    public function __construct(
        public int $id,
        public int $studyId,
        public string $studyName,
        public string $kind,
        public int $subject,
        public string $title,
        public string $state,
        public float $share,
        public ?float $secondsLeft,
        public float $seconds,
        public ?string $message,
        public ?FigureSoFar $soFar = null,
    ) {
    }
}
