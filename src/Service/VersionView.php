<?php

declare(strict_types=1);

namespace App\Service;

/** An approved model of a service. */
final readonly class VersionView
{
    public function __construct(
        public int $number,
        public int $approvalId,
        public string $title,
        public string $by,
        public string $at,
        public ?float $value,
        public string $measure,
        public int $calls,
        public string $state,
    ) {
    }
}
