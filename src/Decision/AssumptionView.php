<?php

declare(strict_types=1);

namespace App\Decision;

/** How the list would change were an assumption another. */
final readonly class AssumptionView
{
    /**
     * @param string $what   that is assumed, such as "works" or "cost"
     * @param float  $value  another one for it
     * @param int    $paying records that still pay
     * @param float  $return of the best of them within capacity
     */
    public function __construct(public string $what, public float $value, public int $paying, public int $actions, public float $return)
    {
    }
}
