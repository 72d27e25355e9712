<?php

declare(strict_types=1);

namespace Dokimos\Core\Dossier;

/** A part of a dossier that can be left out. */
final readonly class Section
{
    /** @param list<Block> $blocks */
    public function __construct(public string $key, public string $name, public string $title, public array $blocks)
    {
    }
}
