<?php

declare(strict_types=1);

namespace App\TakeAway;

/** One form that a model is taken away as. */
final readonly class FormView
{
    /** @param float $within how far an answer may be from ours */
    public function __construct(public string $form, public string $title, public float $within)
    {
    }
}
