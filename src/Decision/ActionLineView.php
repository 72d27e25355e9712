<?php

declare(strict_types=1);

namespace App\Decision;

/** Of several classes: how many records on the list get an action, and what that is expected to bring. */
final readonly class ActionLineView
{
    public function __construct(public string $name, public int $records, public float $return)
    {
    }
}
