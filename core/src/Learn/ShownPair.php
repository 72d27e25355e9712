<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** What two columns do together, beyond their curves. */
final readonly class ShownPair
{
    /**
     * @param list<string>      $firstLabels
     * @param list<string>      $secondLabels
     * @param list<list<float>> $adds         by place of the first, and of the second
     * @param list<list<float>> $counts       training rows there
     */
    public function __construct(
        public string $first,
        public string $second,
        public ?string $class,
        public float $carries,
        public string $says,
        public array $firstLabels,
        public array $secondLabels,
        public array $adds,
        public array $counts,
    ) {
    }
}
