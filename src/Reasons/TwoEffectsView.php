<?php

declare(strict_types=1);

namespace App\Reasons;

/** Mean answers over the background as two columns change. */
final readonly class TwoEffectsView
{
    /**
     * @param list<string>       $across values of the first, as text
     * @param list<string>       $up     of the other
     * @param list<list<?float>> $mean   by value of the first, then of the other
     */
    public function __construct(public string $one, public string $other, public array $across, public array $up, public array $mean)
    {
    }
}
