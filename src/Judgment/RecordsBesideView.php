<?php

declare(strict_types=1);

namespace App\Judgment;

/** Records that several trials part on. */
final readonly class RecordsBesideView
{
    /**
     * @param list<string>       $names
     * @param list<RecordBeside> $records
     */
    public function __construct(public int $total, public array $names, public array $records)
    {
    }
}
