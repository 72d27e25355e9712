<?php

declare(strict_types=1);

namespace App\Register;

/** Narrowed records by name. */
final readonly class NamedSelectionView
{
    /** @param int $records when it was named */
    public function __construct(public int $id, public string $name, public string $view, public string $query, public int $records)
    {
    }

    public static function of(NamedSelection $s): self
    {
        return new self($s->id(), $s->name(), $s->view(), $s->query(), $s->records());
    }
}
