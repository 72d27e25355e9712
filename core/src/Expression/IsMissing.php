<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** Whether a value is missing. */
final readonly class IsMissing implements Expression
{
    public function __construct(public Expression $of)
    {
    }

    public function parts(): array
    {
        return [$this->of];
    }

    /** @return array{missing: Expression} */
    public function jsonSerialize(): array
    {
        return ['missing' => $this->of];
    }
}
