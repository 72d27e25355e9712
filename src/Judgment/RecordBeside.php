<?php

declare(strict_types=1);

namespace App\Judgment;

/** A record with what each of several trials said of it. */
final readonly class RecordBeside
{
    /**
     * @param list<string>      $said  per trial: the chance, the number or the class
     * @param list<string|null> $cells
     */
    public function __construct(public int $number, public string $came, public array $said, public array $cells)
    {
    }
}
