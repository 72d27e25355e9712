<?php

declare(strict_types=1);

namespace App\Replay;

use Symfony\Component\Validator\Constraints as Assert;

/** A study's file; empty where a study goes on after the one that it follows. */
final readonly class ReplayRequest
{
    public function __construct(
        #[Assert\Length(max: 20_000_000, maxMessage: 'The file of a study has 20 MB at most.')]
        public string $file = '',
    ) {
    }
}
