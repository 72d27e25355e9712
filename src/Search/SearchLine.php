<?php

declare(strict_types=1);

namespace App\Search;

/** A search in a list. */
final readonly class SearchLine
{
    /**
     * @param list<string> $learners titles
     * @param int          $done     settings weighed so far
     * @param ?float       $best     the best figure while searching
     * @param bool         $guided   whether Dokimos chose what it tried
     */
    public function __construct(
        public int $id,
        public int $number,
        public array $learners,
        public string $state,
        public int $done,
        public int $tries,
        public ?float $best,
        public ?float $corrected,
        public ?int $trialNumber,
        public ?int $trialId,
        public bool $stale,
        public bool $guided,
    ) {
    }
}
