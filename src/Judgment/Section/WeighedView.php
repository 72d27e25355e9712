<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** Something that a step of a choice of columns weighed. */
final readonly class WeighedView
{
    /**
     * @param string $what  the column that could enter or leave, "nothing", or the columns of a subset
     * @param ?float $value p, AIC, BIC or error, as the step goes by
     */
    public function __construct(public string $action, public string $what, public ?float $value)
    {
    }
}
