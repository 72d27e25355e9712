<?php

declare(strict_types=1);

namespace App\Table;

use App\Source\Portion;
use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a complete upload to become a table. */
final readonly class ImportRequest
{
    /** @param array<string, mixed>|null $dialect corrections of what was detected */
    public function __construct(
        public int $uploadId = 0,
        #[Assert\NotBlank(message: 'The table needs a name.'), Assert\Length(max: 120, maxMessage: 'A table name has at most 120 letters.')]
        public string $name = '',
        public ?array $dialect = null,
        /** The sheet or table of a file that holds several, or a SELECT */
        #[Assert\Length(max: 4000)]
        public ?string $part = null,
        /** Records taken of it at most */
        #[Assert\Range(notInRangeMessage: 'From 1 to 5,000,000 records can be taken.', min: 1, max: Portion::MOST)]
        public int $most = Portion::MOST,
    ) {
    }
}
