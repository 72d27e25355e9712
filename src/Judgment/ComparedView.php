<?php

declare(strict_types=1);

namespace App\Judgment;

/** One variant beside others. */
final readonly class ComparedView
{
    /** @param list<TrialBesideView> $trials what was reached with it, the best first */
    public function __construct(
        public int $id,
        public string $letter,
        public string $name,
        public int $steps,
        public int $rows,
        public int $columns,
        public int $missing,
        public ?string $problem,
        public array $trials,
    ) {
    }
}
