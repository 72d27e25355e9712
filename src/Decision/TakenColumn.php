<?php

declare(strict_types=1);

namespace App\Decision;

use Symfony\Component\Validator\Constraints as Assert;

/** A column that is written, under a name of the analyst's. */
final readonly class TakenColumn
{
    /** @param string $of a column of the scored table, or one of the list's own with a leading "=", such as "=chance" */
    public function __construct(
        #[Assert\NotBlank(message: 'Say which column is meant.'), Assert\Length(max: 255)]
        public string $of = '',
        #[Assert\Length(max: 120, maxMessage: 'A name has 120 characters at most.')]
        public string $as = '',
    ) {
    }
}
