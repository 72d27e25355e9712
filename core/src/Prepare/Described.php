<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Setting;

/** What a kind of step is called, what it is for, and what can be set. */
final readonly class Described
{
    /** @param list<Setting> $settings */
    public function __construct(public string $step, public string $title, public string $group, public string $says, public array $settings)
    {
    }
}
