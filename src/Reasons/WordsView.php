<?php

declare(strict_types=1);

namespace App\Reasons;

/** A column of text through the words that were made of it. */
final readonly class WordsView
{
    /** @param list<WordView> $words those that move answers most, first */
    public function __construct(public string $column, public array $words)
    {
    }
}
