<?php

declare(strict_types=1);

namespace App\Trial;

use Symfony\Component\Validator\Constraints as Assert;

/** What stands beside a trial in the Standings, and whether it is out of sight there. */
final readonly class RemarkRequest
{
    public function __construct(
        #[Assert\Length(max: 400, maxMessage: 'A note has at most 400 letters.')]
        public string $note = '',
        public bool $hidden = false,
    ) {
    }
}
