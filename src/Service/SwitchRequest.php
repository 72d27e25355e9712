<?php

declare(strict_types=1);

namespace App\Service;

/** Another version answers, or none for a while. */
final readonly class SwitchRequest
{
    /** @param ?int $approvalId null = as it is */
    public function __construct(public ?int $approvalId = null, public ?bool $paused = null)
    {
    }
}
