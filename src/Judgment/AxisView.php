<?php

declare(strict_types=1);

namespace App\Judgment;

/** One of two columns that records are drawn on. */
final readonly class AxisView
{
    /**
     * @param string       $kind   number, date (days since 1970) or category
     * @param list<string> $labels of a category, at their places; the last may stand for the rest
     */
    public function __construct(public string $name, public string $kind, public array $labels)
    {
    }
}
