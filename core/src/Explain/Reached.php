<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/** A changed record with its answer. */
final readonly class Reached
{
    /**
     * @param array<string, float|string>      $changes  new cells by column: numbers (dates as days since 1970) or values
     * @param list<float>                      $answer   a number, a chance, or the chances of several classes
     * @param float                            $short    how far it is from what is wanted; 0 = reached
     * @param float                            $cost     of the columns changed, and how far numbers move, in standard deviations
     * @param float                            $likeness to records really seen
     * @param array<string, float|string|null> $followed cells that changed because they follow others by a formula, in the same form
     */
    public function __construct(
        public array $changes,
        public array $answer,
        public float $short,
        public float $cost,
        public float $likeness,
        public array $followed = [],
    ) {
    }
}
