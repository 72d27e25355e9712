<?php

declare(strict_types=1);

namespace App\Decision;

/** The best plain cut-off: all from a chance on are acted on. */
final readonly class CutOffView
{
    /**
     * @param ?float $precision expected share of events among them
     * @param ?float $recall    expected share of all events that is among them
     */
    public function __construct(public float $chance, public ListFiguresView $figures, public ?float $precision, public ?float $recall)
    {
    }
}
