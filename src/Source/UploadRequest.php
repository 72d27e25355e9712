<?php

declare(strict_types=1);

namespace App\Source;

use Symfony\Component\Validator\Constraints as Assert;

/** Announces a file that will come in pieces. */
final readonly class UploadRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'The file needs a name.')]
        public string $fileName = '',
        public int $size = 0,
    ) {
    }
}
