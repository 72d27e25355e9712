<?php

declare(strict_types=1);

namespace App\Search;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks a search to go on. */
final readonly class MoreRequest
{
    /** @param int $more settings beside those that were planned */
    public function __construct(#[Assert\Range(min: 0, max: 1000, notInRangeMessage: 'A search goes on by 0 to 1,000 settings.')] public int $more = 0)
    {
    }
}
