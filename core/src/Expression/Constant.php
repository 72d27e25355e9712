<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** A number, a text, or what is missing. */
final readonly class Constant implements Expression
{
    public function __construct(public float|string|null $value)
    {
    }

    public function parts(): array
    {
        return [];
    }

    /** @return array{constant: float|string|null} */
    public function jsonSerialize(): array
    {
        // What is missing has no number in JSON.
        return ['constant' => \is_float($this->value) && is_nan($this->value) ? null : $this->value];
    }
}
