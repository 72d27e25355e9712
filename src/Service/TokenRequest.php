<?php

declare(strict_types=1);

namespace App\Service;

use Symfony\Component\Validator\Constraints as Assert;

/** A token for one caller. */
final readonly class TokenRequest
{
    /** @param bool $reasons whether it may ask for reasons */
    public function __construct(
        #[Assert\NotBlank(normalizer: 'trim', message: 'Say who calls.'), Assert\Length(max: 120)]
        public string $caller = '',
        #[Assert\Date(message: 'It expires on a date such as 2027-04-30.')]
        public ?string $expires = null,
        #[Assert\Range(min: 1, max: 100000, notInRangeMessage: 'From 1 to 100,000 calls a minute.')]
        public int $perMinute = 600,
        #[Assert\Range(min: 1, max: 10000000, notInRangeMessage: 'From 1 to 10,000,000 calls a day.')]
        public int $perDay = 20000,
        public bool $reasons = true,
    ) {
    }
}
