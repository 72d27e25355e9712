<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/** One column of the matrix: a number, or "is this level" of a category. */
final readonly class Term
{
    public function __construct(public string $column, public ?string $level = null)
    {
    }

    public function name(): string
    {
        return null === $this->level ? $this->column : $this->column.'='.$this->level;
    }
}
