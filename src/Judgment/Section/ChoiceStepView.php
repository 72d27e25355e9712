<?php

declare(strict_types=1);

namespace App\Judgment\Section;

/** One step of a choice of columns: what was done, what it was judged by, and the columns after it. */
final readonly class ChoiceStepView
{
    /**
     * @param string            $action   start, enter, remove or stop; best of size or choose among subsets
     * @param ?float            $p        of the column that entered or left
     * @param ?float            $value    after the step, of what it was chosen by: AIC, BIC or the error on held rows
     * @param ?float            $training loss on the rows that the step's model was fitted on
     * @param ?float            $held     loss on a fifth kept back from it
     * @param ?float            $rss      sum of squared residuals, of least squares
     * @param ?float            $cp       Mallows' Cp, of least squares
     * @param list<string>      $columns
     * @param list<WeighedView> $weighed  what the step could have done instead, and what it did
     */
    public function __construct(
        public string $action,
        public ?string $column,
        public ?float $p,
        public ?float $value,
        public ?float $training,
        public ?float $held,
        public ?float $rss,
        public ?float $cp,
        public array $columns,
        public array $weighed,
    ) {
    }
}
