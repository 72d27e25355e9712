<?php

declare(strict_types=1);

namespace Dokimos\Benchmarks\Search;

use Dokimos\Core\Table\Table;

/** Rows to search on, fresh rows to be judged on, and what was planted. */
final readonly class Problem
{
    /**
     * @param list<float>   $outcome
     * @param list<float>   $truth   of the fresh rows
     * @param ?list<string> $classes null for a number
     * @param list<string>  $planted names of columns, each of which a kept idea has to be made of; [] = nothing to name
     */
    public function __construct(
        public string $name,
        public Table $table,
        public array $outcome,
        public Table $fresh,
        public array $truth,
        public ?array $classes,
        public array $planted,
    ) {
    }
}
