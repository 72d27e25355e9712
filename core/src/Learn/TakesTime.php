<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that takes long to answer: it looks at its training rows again. */
interface TakesTime extends Model
{
    /** Cells that an answer looks at, about. */
    public function cost(): int;
}
