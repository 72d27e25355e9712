<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Blend\Mixing;

/** A model made of whole models, each with its own preparation. */
interface Mixes
{
    /** @return non-empty-list<ScoringModel> */
    public function models(): array;

    public function mixing(): Mixing;
}
