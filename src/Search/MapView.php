<?php

declare(strict_types=1);

namespace App\Search;

/** Two settings as a map: in each cell the mean figure of the best few tries. */
final readonly class MapView
{
    /**
     * @param list<string>           $across values of the one setting
     * @param list<string>           $up     values of the other
     * @param list<list<float|null>> $cells  by the other, then the one; null where nothing was tried
     */
    public function __construct(public string $x, public string $y, public array $across, public array $up, public array $cells)
    {
    }
}
