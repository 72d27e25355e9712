<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

/** Rows as a network reads them: of each only what is not 0, and the places of values that have an embedding. */
final readonly class Inputs
{
    /**
     * @param int             $rows   how many
     * @param list<int>       $start  where the entries of a row begin; one more at the end
     * @param list<int>       $index  input unit of each entry
     * @param list<float>     $value  of each entry
     * @param list<list<int>> $levels per embedding the place of the value, one a row
     */
    public function __construct(public int $rows, public array $start, public array $index, public array $value, public array $levels)
    {
    }
}
