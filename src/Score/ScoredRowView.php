<?php

declare(strict_types=1);

namespace App\Score;

/** One scored record; without a chance it says why. */
final readonly class ScoredRowView
{
    /**
     * @param list<string|null> $cells
     * @param ?float            $chance of the event, or of the likeliest class
     * @param ?float            $answer what is predicted of a number
     * @param list<float>       $shares chances of all classes
     */
    public function __construct(public int $number, public ?float $chance, public ?bool $called, public string $reasons, public ?string $why, public array $cells, public ?float $answer, public ?string $class, public array $shares)
    {
    }
}
