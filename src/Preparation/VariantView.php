<?php

declare(strict_types=1);

namespace App\Preparation;

use Dokimos\Core\Prepare\Advice;

/** A variant with the toll of every step. */
final readonly class VariantView
{
    /**
     * @param list<StepView>      $steps
     * @param list<CandidateView> $left    columns with missing cells after the last step
     * @param ?LookView           $look    the step that was asked for, closely
     * @param list<Advice>        $advice  other orders of the same steps that do less harm; only where it was asked for
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
        public ?LookView $look,
        public array $advice,
    ) {
    }
}
