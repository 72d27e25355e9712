<?php

declare(strict_types=1);

namespace App\Reasons;

/** What preparation made of a record, in one column that the model reads. */
final readonly class SeenCell
{
    /** @param list<string> $from columns as they came that it is made of */
    public function __construct(public string $column, public ?string $value, public array $from)
    {
    }
}
