<?php

declare(strict_types=1);

namespace App\TakeAway;

use Symfony\Component\Validator\Constraints as Assert;

/** Scores a table inside a database. */
final readonly class InsideRequest
{
    /**
     * @param int          $connectionId 0 = the company database
     * @param string       $from         a table, or a query
     * @param list<string> $keys         columns that come along
     * @param string       $into         the new table
     */
    public function __construct(
        #[Assert\PositiveOrZero(message: 'Choose the server.')]
        public int $connectionId = 0,
        #[Assert\NotBlank(normalizer: 'trim', message: 'Say which table is scored.'), Assert\Length(max: 20000)]
        public string $from = '',
        #[Assert\All([new Assert\Type('string')]), Assert\Count(max: 20)]
        public array $keys = [],
        #[Assert\NotBlank(normalizer: 'trim', message: 'Name the new table.'), Assert\Length(max: 130)]
        public string $into = '',
    ) {
    }
}
