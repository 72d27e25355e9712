<?php

declare(strict_types=1);

namespace App\Reasons;

/** The answers for one record as one of its columns changes. */
final readonly class SingleView
{
    /**
     * @param int          $number of the record; 0 for one of the background that nobody named
     * @param ?string      $value  it has
     * @param ?float       $answer as it is
     * @param list<?float> $ys     one per value
     */
    public function __construct(public int $number, public ?string $value, public ?float $answer, public array $ys)
    {
    }
}
