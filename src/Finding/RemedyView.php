<?php

declare(strict_types=1);

namespace App\Finding;

/** Something that can be done about a finding. */
final readonly class RemedyView
{
    /**
     * @param string                $do     "set aside", "kind", "key", "known afterwards", or "step" of a preparation
     * @param string                $column the column it is done to
     * @param ?string               $to     the kind, when it is one
     * @param string                $label  what the button says
     * @param ?array<string, mixed> $step   the step to draft, when it is one
     */
    public function __construct(public string $do, public string $column, public ?string $to, public string $label, public ?array $step)
    {
    }
}
