<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** How much of all that a model of trees gained came from divisions by one column. */
final readonly class ImportanceView
{
    public function __construct(public string $column, public float $share)
    {
    }
}
