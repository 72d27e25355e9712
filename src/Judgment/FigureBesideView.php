<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\FigureView;

/** A figure of trials side by side. */
final readonly class FigureBesideView
{
    /** @param list<DifferenceView> $trials */
    public function __construct(public FigureView $figure, public array $trials)
    {
    }
}
