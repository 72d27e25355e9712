<?php

declare(strict_types=1);

namespace App\Reasons;

/** A changed record that reaches what is wanted, or comes nearest. */
final readonly class ReachedView
{
    /**
     * @param list<ChangeView> $changes
     * @param float            $short   how far it is from what is wanted; 0 = reached
     * @param float            $cost    of the columns changed, and how far numbers move
     */
    public function __construct(public array $changes, public AnswerView $answer, public float $short, public float $cost)
    {
    }
}
