<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** Numbers of a graph that are to be as exact as doubles are. */
final readonly class Doubles
{
    /** @param list<float> $values */
    public function __construct(public array $values)
    {
    }
}
