<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Judgment\Section\LostView;

/** What trials side by side lose when a column is shuffled. */
final readonly class LeanBesideView
{
    /** @param list<?LostView> $trials null where a trial does not use the column */
    public function __construct(public string $column, public array $trials)
    {
    }
}
