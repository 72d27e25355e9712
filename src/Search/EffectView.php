<?php

declare(strict_types=1);

namespace App\Search;

/** What a varied setting did to the figure. */
final readonly class EffectView
{
    /**
     * @param float                     $share   of the spread of all tries that lies between its values
     * @param list<PartView>            $parts   in rising order
     * @param int                       $edge    where the best lies at an end of the range: -1 at the low one, 1 at the high one
     * @param array<string, mixed>|null $widened the range gone on beyond that end
     */
    public function __construct(public string $name, public string $label, public float $share, public array $parts, public int $edge, public ?array $widened)
    {
    }
}
