<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that is made of other trials' models. */
interface ShowsBlend extends Model
{
    /** How their answers become one. */
    public function how(): string;

    /** @return list<array{trial: int, name: string, weight: float}> in the order in which they were chosen */
    public function members(): array;
}
