<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** One value where a condition holds, another where it does not. */
final readonly class When implements Expression
{
    public function __construct(public Expression $condition, public Expression $then, public Expression $else)
    {
    }

    public function parts(): array
    {
        return [$this->condition, $this->then, $this->else];
    }

    /** @return array{when: Expression, then: Expression, else: Expression} */
    public function jsonSerialize(): array
    {
        return ['when' => $this->condition, 'then' => $this->then, 'else' => $this->else];
    }
}
