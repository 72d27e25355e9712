<?php

declare(strict_types=1);

namespace App\Reasons;

/** A sum of few terms that answers as the model does near one record. */
final readonly class LocalView
{
    /**
     * @param list<LocalTerm> $terms strongest first
     * @param float           $fit   share of the answers' variance near the record that it follows
     */
    public function __construct(public array $terms, public float $fit)
    {
    }
}
