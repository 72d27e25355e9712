<?php

declare(strict_types=1);

namespace App\Trial;

use Symfony\Component\Validator\Constraints as Assert;

/** Asks for the figure that trials are ranked by. */
final readonly class RankRequest
{
    public function __construct(#[Assert\NotBlank(message: 'Name the figure to rank by.')] public string $figure = '')
    {
    }
}
