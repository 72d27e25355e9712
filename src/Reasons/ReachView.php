<?php

declare(strict_types=1);

namespace App\Reasons;

/** Answers that reach what is wanted, cheapest first. */
final readonly class ReachView
{
    /**
     * @param list<ReachedView> $found
     * @param ?ReachedView      $nearest where none does that is likely enough
     * @param int               $tried   changed records that were asked about
     */
    public function __construct(public AnswerView $begins, public array $found, public ?ReachedView $nearest, public int $tried)
    {
    }
}
