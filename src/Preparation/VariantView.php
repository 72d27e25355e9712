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
        /** Rows that have a value in every column to learn from. */
        public int $completeAfter,
        public array $steps,
        public array $left,
        public ?string $problem,
        public bool $approximate,
        public ?LookView $look,
        public array $advice,
    ) {
    }

    /**
     * The same counts, for a variant that has these steps now.
     *
     * @param list<array<string, mixed>> $steps
     */
    public function saidAgain(Variant $variant, array $steps): self
    {
        $noted = array_map(
            static fn (StepView $view, array $step) => new StepView(
                $view->step,
                $view->settings,
                $view->off,
                \is_string($step['note'] ?? null) ? $step['note'] : '',
                $view->sentence,
                $view->toll,
                $view->problem,
            ),
            $this->steps,
            $steps,
        );

        return new self(
            $variant->id(),
            $variant->version(),
            $variant->letter(),
            $variant->name(),
            $this->rowsBefore,
            $this->columnsBefore,
            $this->missingBefore,
            $this->rowsAfter,
            $this->columnsAfter,
            $this->missingAfter,
            $this->completeAfter,
            $noted,
            $this->left,
            $this->problem,
            $this->approximate,
            null,
            $this->advice,
        );
    }

    public function looking(?LookView $look): self
    {
        return new self(
            $this->id,
            $this->version,
            $this->letter,
            $this->name,
            $this->rowsBefore,
            $this->columnsBefore,
            $this->missingBefore,
            $this->rowsAfter,
            $this->columnsAfter,
            $this->missingAfter,
            $this->completeAfter,
            $this->steps,
            $this->left,
            $this->problem,
            $this->approximate,
            $look,
            $this->advice,
        );
    }
}
