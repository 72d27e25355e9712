<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** A way to calibrate, with the log loss that it reaches on folds that it had not learned from. */
final readonly class WayView
{
    public function __construct(public string $way, public ?float $logLoss)
    {
    }
}
