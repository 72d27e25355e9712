<?php

declare(strict_types=1);

namespace App\Finding;

/** One condition of a plain rule: "days_ahead is over 9". */
final readonly class RuleCondition
{
    public function __construct(public string $column, public string $is)
    {
    }
}
