<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Design\Coding;

/** A model that is a sum of terms, each with a coefficient. */
interface ShowsCoefficients extends Model
{
    public function coding(): Coding;

    /** @return list<ShownCoefficient> the constant first; of several classes those of each class against the first, one class after the other */
    public function shownCoefficients(): array;
}
