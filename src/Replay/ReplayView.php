<?php

declare(strict_types=1);

namespace App\Replay;

/** How far a study has come that is done again from a file. */
final readonly class ReplayView
{
    /**
     * @param string             $name         of the study in the file
     * @param list<ReplaySource> $sources
     * @param int                $same         trials that are the same to the last bit
     * @param int                $waiting      trials that are not done
     * @param int                $sameLists    batches and lists that came out the same
     * @param int                $waitingLists those that are not done
     * @param list<string>       $differs      where they part, and at which ancestor
     * @param list<string>       $not          what is told in the file and not done again
     */
    public function __construct(
        public string $name,
        public array $sources,
        public int $same,
        public int $waiting,
        public int $sameLists,
        public int $waitingLists,
        public array $differs,
        public array $not,
    ) {
    }
}
