<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A cell of a table that a model shows of itself: words, or a number with the ends of its interval. */
final readonly class ShownCell
{
    private function __construct(public ?string $text, public ?float $value, public ?float $low, public ?float $high)
    {
    }

    public static function text(string $text): self
    {
        return new self($text, null, null, null);
    }

    public static function number(?float $value, ?float $low = null, ?float $high = null): self
    {
        return new self(null, $value, $low, $high);
    }
}
