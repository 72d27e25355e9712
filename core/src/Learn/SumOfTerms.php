<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** What a model of terms adds up, and what the sum means. */
final readonly class SumOfTerms
{
    /**
     * @param list<non-empty-list<string>>      $columns of each term, one or two
     * @param \Closure(Table, int): list<float> $values  of a term, one per row of a prepared table
     * @param float                             $start   what the sum is without any term
     */
    public function __construct(public array $columns, public \Closure $values, public float $start, public Scale $scale)
    {
    }
}
