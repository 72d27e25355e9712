<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A regression in which numbers may follow a curve. */
interface ShowsBends extends Model
{
    /** @return list<ShownBend> of the numbers that bend */
    public function bends(): array;
}
