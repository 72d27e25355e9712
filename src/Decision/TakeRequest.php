<?php

declare(strict_types=1);

namespace App\Decision;

use Symfony\Component\Validator\Constraints as Assert;

/** How a list is taken out: which records, which columns in which order, in which format. */
final readonly class TakeRequest
{
    /** @param list<TakenColumn> $columns none = what a list has by itself */
    public function __construct(
        #[Assert\Choice(ListPages::WHICH, message: 'Take those acted on, those left, or all.')]
        public string $which = 'acted',
        #[Assert\Choice(ListFiles::FORMATS, message: 'A list is written as csv, jsonl or xlsx.')]
        public string $format = 'csv',
        #[Assert\Valid, Assert\Count(max: 2000)]
        public array $columns = [],
    ) {
    }
}
