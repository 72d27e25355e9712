<?php

declare(strict_types=1);

namespace App\TakeAway;

/** A table that is scored where it lies, or was. */
final readonly class InsideView
{
    /**
     * @param 'running'|'done'|'failed' $state
     * @param string                    $place   where it lies, in words
     * @param string                    $from    the table, or the query
     * @param float                     $seconds that it took
     * @param string                    $says    what the proof found, or why nothing was written
     */
    public function __construct(
        public int $id,
        public string $state,
        public string $place,
        public string $from,
        public string $into,
        public int $rows,
        public float $seconds,
        public string $says,
        public bool $draft,
        public string $by,
        public string $at,
    ) {
    }
}
