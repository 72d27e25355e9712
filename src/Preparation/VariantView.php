<?php

declare(strict_types=1);

namespace App\Preparation;

/** A variant with the toll of every step. */
final readonly class VariantView
{
    /**
     * @param list<StepView>      $steps
     * @param list<CandidateView> $left    columns with missing cells after the last step
     * @param ?string             $problem why a step cannot be done; the steps before it still hold
     */
    public function __construct(
        public int $id,
        public int $version,
        public string $letter,
        public string $name,
        public int $rowsBefore,
        public int $columnsBefore,
        public int $missingBefore,
        public int $rowsAfter,
        public int $columnsAfter,
        public int $missingAfter,
        public array $steps,
        public array $left,
        public ?string $problem,
        public bool $approximate,
    ) {
    }
}
