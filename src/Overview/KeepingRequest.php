<?php

declare(strict_types=1);

namespace App\Overview;

use Symfony\Component\Validator\Constraints as Assert;

/** For how long what was scored stays. */
final readonly class KeepingRequest
{
    /** @param int $days 0 = for good */
    public function __construct(
        #[Assert\Range(min: 0, max: 3650, notInRangeMessage: 'What was scored stays for good (0) or for 1 to 3,650 days.')]
        public int $days = 0,
    ) {
    }
}
