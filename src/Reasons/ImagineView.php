<?php

declare(strict_types=1);

namespace App\Reasons;

/** A record as it came and with other cells. */
final readonly class ImagineView
{
    /**
     * @param ?string         $class  of several, the one whose chance the curves tell
     * @param list<InputView> $inputs what matters most first
     */
    public function __construct(public AnswerView $before, public AnswerView $after, public ?string $class, public array $inputs)
    {
    }
}
