<?php

declare(strict_types=1);

namespace App\Trial;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a trial once more without some of its columns. */
final readonly class ReduceRequest
{
    /** @param list<string> $columns of the table as it came */
    public function __construct(
        #[Assert\All([new Assert\Type('string', message: 'Columns are named by text.')])]
        #[Assert\Count(min: 1, max: 5000, minMessage: 'Name at least one column to leave out.')]
        public array $columns = [],
    ) {
    }
}
