<?php

declare(strict_types=1);

namespace App\Table;

use Dokimos\Core\Select\Relation;
use Dokimos\Core\Table\Kind;

/** What a column of some kind can be asked, the most usual first. */
final readonly class AskView
{
    /** @param list<string> $relations */
    public function __construct(public string $kind, public array $relations)
    {
    }

    public static function of(Kind $kind): self
    {
        return new self($kind->value, array_map(static fn (Relation $r) => $r->value, Relation::for($kind)));
    }
}
