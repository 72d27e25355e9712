<?php

declare(strict_types=1);

namespace App\Trial;

/** About how long a trial of a learner will take. */
final readonly class ForecastView
{
    /**
     * @param int  $measured trials it is taken from
     * @param bool $own      whether those were of this study
     */
    public function __construct(public string $learner, public float $seconds, public int $measured, public bool $own)
    {
    }
}
