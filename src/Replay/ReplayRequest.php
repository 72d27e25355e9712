<?php

declare(strict_types=1);

namespace App\Replay;

use Symfony\Component\Validator\Constraints as Assert;

/** A study's file, to be followed in this study. */
final readonly class ReplayRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'Choose the file of a study.'), Assert\Length(max: 20_000_000)]
        public string $file = '',
    ) {
    }
}
