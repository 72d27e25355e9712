<?php

declare(strict_types=1);

namespace App\Search;

/** The best of a learner, judged on rows that no choice had read. */
final readonly class FinalView
{
    /** @param ?int $reading leaves, rules or terms there are to read; null where no reading tells */
    public function __construct(public string $learner, public string $title, public float $searching, public ?float $value, public ?float $low, public ?float $high, public ?int $reading, public ?int $trialId, public ?int $trialNumber)
    {
    }
}
