<?php

declare(strict_types=1);

namespace App\Trial;

/** A choice of columns under a name. */
final readonly class ChoiceView
{
    /** @param list<string> $names */
    public function __construct(public int $id, public string $name, public array $names, public bool $without)
    {
    }

    public static function of(NamedChoice $choice): self
    {
        return new self($choice->id(), $choice->name(), $choice->choice()->names, $choice->choice()->without);
    }
}
