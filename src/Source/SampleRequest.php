<?php

declare(strict_types=1);

namespace App\Source;

use Symfony\Component\Validator\Constraints as Assert;

/** A sample drawn in a database: a share by a key, or so many of each value. */
final readonly class SampleRequest
{
    /**
     * @param string  $part a table, or a query
     * @param ?string $by   column whose values are drawn from alike; null = a share of all
     * @param int     $each records of each value, at most
     */
    public function __construct(
        #[Assert\NotBlank(message: 'Say which table the sample is drawn from.'), Assert\Length(max: 20000)]
        public string $part = '',
        #[Assert\NotBlank(message: 'Say which column is the key.')]
        public string $key = '',
        public float $share = 0.1,
        public ?string $by = null,
        public int $each = 1000,
    ) {
    }
}
