<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that has figures of its own fit, such as its likelihood. */
interface ReportsFit extends Model
{
    /** @return array<string, mixed> by their names in docs/methods */
    public function fit(): array;
}
