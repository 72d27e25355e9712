<?php

declare(strict_types=1);

namespace App\Register;

use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;
use Symfony\Component\Validator\Constraints as Assert;

/** The same change of many columns; what is left out stays. */
final readonly class ColumnsRequest
{
    /**
     * @param array<string, int> $versions the version of each column that was shown, by the column's id
     * @param bool               $preview  only say what would happen
     */
    public function __construct(
        #[Assert\Count(min: 1, max: 2000)]
        #[Assert\All([new Assert\Type('integer')])]
        public array $versions,
        public ?Kind $kind = null,
        public ?ColumnUse $use = null,
        public ?bool $known = null,
        public bool $preview = false,
    ) {
    }
}
