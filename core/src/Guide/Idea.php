<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

/** Something that a guided search might make of the columns: ordinary steps, and what they mean in words. */
final readonly class Idea
{
    /**
     * @param string                     $name  of the column it makes, or what it treats
     * @param string                     $from  what it is made of, in words
     * @param list<array<string, mixed>> $steps of a preparation, after those that are there
     * @param list<string>               $of    the columns it is made of
     * @param bool                       $first whether its steps come before what fills missing cells
     * @param bool                       $wide  whether it makes so many columns that a regression with them takes long to fit
     */
    public function __construct(
        public string $name,
        public string $from,
        public array $steps,
        public array $of,
        public bool $first = false,
        public bool $wide = false,
    ) {
    }
}
