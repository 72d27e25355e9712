<?php

declare(strict_types=1);

namespace App\Score;

/** What is asked before a run, with the answer that is already chosen: it stops nothing. */
final readonly class QuestionView
{
    /**
     * @param string       $says    as it stands among the remarks
     * @param string       $answer  chosen
     * @param list<string> $answers that there are
     * @param ?string      $usual   what a column that is not there would be filled with
     */
    public function __construct(
        public string $column,
        public string $says,
        public string $answer,
        public array $answers,
        public ?string $usual = null,
    ) {
    }
}
