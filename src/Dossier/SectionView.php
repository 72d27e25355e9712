<?php

declare(strict_types=1);

namespace App\Dossier;

/** A part of a dossier. */
final readonly class SectionView
{
    /**
     * @param bool   $on   whether it is told
     * @param ?int   $page it begins on; null where it is left out
     * @param string $html what it tells; empty where it is left out
     */
    public function __construct(
        public string $key,
        public string $name,
        public string $title,
        public bool $on,
        public ?int $page,
        public string $html,
    ) {
    }
}
