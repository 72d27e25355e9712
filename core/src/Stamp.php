<?php

declare(strict_types=1);

namespace Dokimos\Core;

/** A short mark of what something was made of: the same parts in the same order have the same stamp, whatever machine computed it. */
final readonly class Stamp
{
    /** @throws \JsonException for what cannot be written as JSON, such as a number that is none */
    public static function of(mixed $parts): string
    {
        return hash('xxh128', json_encode($parts, \JSON_THROW_ON_ERROR));
    }
}
