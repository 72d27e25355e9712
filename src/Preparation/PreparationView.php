<?php

declare(strict_types=1);

namespace App\Preparation;

/** The variants of a study and the columns they start from. */
final readonly class PreparationView
{
    /**
     * @param list<VariantView>   $variants
     * @param list<CandidateView> $columns
     */
    public function __construct(public array $variants, public array $columns)
    {
    }
}
