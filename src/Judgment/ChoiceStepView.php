<?php

declare(strict_types=1);

namespace App\Judgment;

/** One step of a choice of columns: what was done, what it was judged by, and the columns after it. */
final readonly class ChoiceStepView
{
    /**
     * @param string       $action   start, enter, remove or stop
     * @param ?float       $p        of the column that entered or left
     * @param ?float       $aic      after the step, when chosen by AIC or BIC
     * @param ?float       $training loss on the rows that the step's model was fitted on
     * @param ?float       $held     loss on a fifth kept back from it
     * @param list<string> $columns
     */
    public function __construct(public string $action, public ?string $column, public ?float $p, public ?float $aic, public ?float $training, public ?float $held, public array $columns)
    {
    }
}
