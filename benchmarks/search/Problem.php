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
     * @param list<string>  $planted names of columns: a pair has to be in kept ideas, one alone in what the winner leans on when it is
     *                               shuffled among fresh rows
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
