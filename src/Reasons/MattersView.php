<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Trial\TrialView;

/** What matters over all records. */
final readonly class MattersView
{
    /**
     * @param ?string          $class   of several, the one whose chance is explained
     * @param list<string>     $classes of several
     * @param int              $rows    open rows
     * @param int              $looked  records whose answers were shared out
     * @param list<MatterLine> $columns most first
     * @param int              $carry   so many of them carry what can be told from noise
     * @param float            $carried share of all that is lost by shuffling that these hold
     * @param bool             $pending whether a worker has still to look
     * @param ?int             $jobId   of the work under way
     */
    public function __construct(
        public TrialView $trial,
        public string $event,
        public string $target,
        public ?string $class,
        public array $classes,
        public int $rows,
        public int $looked,
        public array $columns,
        public int $carry,
        public float $carried,
        public bool $pending,
        public ?int $jobId,
    ) {
    }
}
