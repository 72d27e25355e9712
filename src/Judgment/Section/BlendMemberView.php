<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** A trial in a blend. */
final readonly class BlendMemberView
{
    /** @param float $weight how much it counts; of a regression its coefficient */
    public function __construct(public int $trialId, public string $name, public float $weight)
    {
    }
}
