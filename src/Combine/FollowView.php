<?php

declare(strict_types=1);

namespace App\Combine;

use Dokimos\Core\Combine\CombineToll;

/** The combination that would give new records the columns of a table that was made. */
final readonly class FollowView
{
    /**
     * @param int    $made     the table the combination was kept with
     * @param string $sentence what the combination does
     * @param ?int   $ready    a table that was made from the new records by the same combination before
     */
    public function __construct(public int $made, public string $name, public string $sentence, public CombineToll $toll, public ?int $ready)
    {
    }
}
