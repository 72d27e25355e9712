<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** A column of the record, or what was worked out before under a name. */
final readonly class Named implements Expression
{
    /** @param bool $isText whether it holds a text rather than a number; dates are days since 1970 */
    public function __construct(public string $name, public bool $isText)
    {
    }

    public function parts(): array
    {
        return [];
    }

    /** @return array{column: string} */
    public function jsonSerialize(): array
    {
        return ['column' => $this->name];
    }
}
