<?php

declare(strict_types=1);

namespace App\Search;

/** What a search would take, before it runs. */
final readonly class SearchForecastView
{
    /**
     * @param float  $combinations of all listed values and points
     * @param int    $tries        settings that would be weighed
     * @param ?float $seconds      about how long, from trials that ran here; null when none did
     */
    public function __construct(public float $combinations, public int $tries, public int $fits, public ?float $seconds)
    {
    }
}
