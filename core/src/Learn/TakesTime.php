<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that takes long to answer: it looks at its training rows again. */
interface TakesTime extends Model
{
    /** Seconds for each cell that is looked at: 10,000 answers from 100,000 rows of 20 columns took 53 s (docs/benchmarks-learners.md). */
    public const SECONDS = 2.7e-9;

    /** Cells that an answer looks at, about. */
    public function cost(): int;
}
