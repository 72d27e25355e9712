<?php

declare(strict_types=1);

namespace App\Reasons;

/** Records of a list that mainly the same speaks for. */
final readonly class BecauseGroup
{
    /**
     * @param ?float            $answer  mean answer; null in lists looked at before groups were told
     * @param list<GroupEffect> $effects mean of what each column does
     */
    public function __construct(public string $says, public int $records, public ?float $answer, public array $effects)
    {
    }
}
