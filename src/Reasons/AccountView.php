<?php

declare(strict_types=1);

namespace App\Reasons;

/** An answer shared out among the columns as they came: the base and all effects add up to it. */
final readonly class AccountView
{
    /**
     * @param float             $base    mean answer for the background records; from another scale the answer at the mean there
     * @param ?float            $average of all rows the model learned from, where it differs from the base by more than a twentieth
     * @param ?string           $class   of several, the one whose chance it is
     * @param float             $error   the largest standard error that drawing orders leaves; nothing where it is exact
     * @param int               $orders  drawn; 0 = exact
     * @param list<AccountLine> $columns strongest first
     * @param ?string           $scale   the model's own, where that is another: log-odds, logarithm
     * @param ?float            $ownBase the base there; its effects add to it exactly
     */
    public function __construct(
        public float $base,
        public ?float $average,
        public float $answer,
        public ?string $class,
        public float $error,
        public int $orders,
        public array $columns,
        public ?string $scale = null,
        public ?float $ownBase = null,
    ) {
    }
}
