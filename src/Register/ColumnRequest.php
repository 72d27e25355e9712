<?php

declare(strict_types=1);

namespace App\Register;

use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

/** What to change about a column; what is left out stays. */
final readonly class ColumnRequest
{
    public function __construct(public ?Kind $kind = null, public ?ColumnUse $use = null, public ?bool $known = null)
    {
    }
}
