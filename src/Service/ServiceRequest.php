<?php

declare(strict_types=1);

namespace App\Service;

use Symfony\Component\Validator\Constraints as Assert;

/** Opens a service. */
final readonly class ServiceRequest
{
    public function __construct(
        public string $name = '',
        #[Assert\Positive(message: 'Choose the approved version that answers.')]
        public int $approvalId = 0,
    ) {
    }
}
