<?php

declare(strict_types=1);

namespace App\Reasons;

/** Why the records of a scored list have their answers. */
final readonly class BecauseView
{
    /**
     * @param int                $looked records that were looked at: those called, or those with the highest answers; 0 = none yet
     * @param list<BecauseGroup> $groups most records first
     * @param ?int               $jobId  of the work under way
     */
    public function __construct(public int $looked, public array $groups, public ?int $jobId)
    {
    }
}
