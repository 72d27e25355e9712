<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\Table;

/** What the answers of a trial are explained against: drawn once, and kept, so that accounts repeat. */
final readonly class Basis
{
    /**
     * @param Table       $background 200 open records, outcomes in proportion: accounts are held against their mean answer
     * @param Table       $seen       up to 1,000 open records, for likeness and neighbors
     * @param list<int>   $numbers    of the records seen, from 1
     * @param list<float> $came       their outcomes
     */
    public function __construct(
        public Table $background,
        public Table $seen,
        public array $numbers,
        public array $came,
        public Likeness $likeness,
        public Sure $sure,
    ) {
    }
}
