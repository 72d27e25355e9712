<?php

declare(strict_types=1);

namespace App\Score;

use App\Combine\FollowView;

/** What would be scored with what, and what is wrong, before anything runs. */
final readonly class MatchView
{
    /**
     * @param list<MatchLine>    $lines
     * @param list<string>       $problems    in sentences; none stops the run
     * @param list<string>       $columns     the columns of the new table, to choose from
     * @param list<QuestionView> $questions   with an answer already chosen
     * @param ?FollowView        $combination what gives the records the columns they lack, when the model's table was made by a combination
     */
    public function __construct(
        public int $trialId,
        public int $tableId,
        public int $rows,
        public array $lines,
        public array $problems,
        public array $columns,
        public int $unscorable,
        public ?FollowView $combination,
        public array $questions,
    ) {
    }
}
