<?php

declare(strict_types=1);

namespace App\Trial;

/** About how long a trial of a learner will take, and its answers where these take long. */
final readonly class ForecastView
{
    /**
     * @param ?float $seconds  null before a first trial was measured
     * @param int    $measured trials it is taken from
     * @param bool   $own      whether those were of this study
     * @param ?float $answers  seconds that 10,000 answers will take, of a learner that looks at its training rows again for each; null = no
     *                         longer than others
     */
    public function __construct(
        public string $learner,
        public ?float $seconds,
        public int $measured,
        public bool $own,
        public ?float $answers = null,
    ) {
    }
}
