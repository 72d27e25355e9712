<?php

declare(strict_types=1);

namespace App\Recheck;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a later day to look again. */
final readonly class LaterRequest
{
    public function __construct(
        #[Assert\Date(message: 'The day to look again is a date such as 2027-04-30.'), Assert\NotBlank(message: 'Set a day to look again.')]
        public string $again = '',
    ) {
    }
}
