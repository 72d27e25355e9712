<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A table that a model shows of itself. */
final readonly class ShownTable
{
    /**
     * @param string                $title   what it finds, as a sentence without its point
     * @param string                $says    how it is read
     * @param list<ShownColumn>     $columns
     * @param list<list<ShownCell>> $rows
     */
    public function __construct(public string $title, public string $says, public array $columns, public array $rows)
    {
    }
}
