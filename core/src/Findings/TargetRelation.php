<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

/** What one column tells about the target by itself; association, never cause. */
final readonly class TargetRelation
{
    /**
     * @param ?float  $adjusted p-value corrected for the number of columns
     * @param string  $says     the direction in words; empty when there is none to tell
     * @param ?float  $lowest   the mean outcome (a share of an event or a class) where it is lowest among the column's parts, and where it is highest
     * @param ?string $leftOut  why it is not ranked
     */
    public function __construct(public string $column, public ?TargetStrength $strength, public ?float $adjusted, public string $says, public ?float $lowest, public ?float $highest, public bool $late, public ?string $leftOut)
    {
    }
}
