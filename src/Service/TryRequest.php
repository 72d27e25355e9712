<?php

declare(strict_types=1);

namespace App\Service;

use Symfony\Component\Validator\Constraints as Assert;

/** A record asked of one version, or of several beside each other. */
final readonly class TryRequest
{
    /**
     * @param array<array-key, float|int|string|bool|null> $record
     * @param list<int>                                    $versions
     */
    public function __construct(
        public array $record = [],
        #[Assert\Count(min: 1, max: 5, minMessage: 'Choose a version to ask.', maxMessage: 'At most five versions are asked at once.')]
        public array $versions = [],
    ) {
    }
}
