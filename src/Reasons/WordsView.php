<?php

declare(strict_types=1);

namespace App\Reasons;

use Dokimos\Core\Decide\WordEffect;

/** A column of text through the words that were made of it. */
final readonly class WordsView
{
    /** @param list<WordEffect> $words those that move answers most, first */
    public function __construct(public string $column, public array $words)
    {
    }
}
