<?php

declare(strict_types=1);

namespace App\Register;

use Symfony\Component\Validator\Constraints as Assert;

/** Names what a view is narrowed to. */
final readonly class NamedSelectionRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'The selection needs a name.'), Assert\Length(
            max: 120,
            maxMessage: 'A name has 120 characters at most.',
        )]
        public string $name = '',
        #[Assert\Regex('#^(table/\d{1,18}/rows|decisions/\d{1,18})$#', message: 'Rows of a table, or scored records, are named.')]
        public string $view = '',
        #[Assert\Length(max: 4000, maxMessage: 'The conditions are too long to be kept.')]
        public string $query = '',
        #[Assert\PositiveOrZero(message: 'There are no fewer than 0 records.')]
        public int $records = 0,
    ) {
    }
}
