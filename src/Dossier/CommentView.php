<?php

declare(strict_types=1);

namespace App\Dossier;

/** What somebody says beside a section, or beside words of it. */
final readonly class CommentView
{
    /**
     * @param bool   $print whether the dossier prints it
     * @param string $quote the words it is on; empty = the section
     */
    public function __construct(
        public string $section,
        public string $text,
        public bool $print,
        public string $by,
        public string $at,
        public string $quote = '',
    ) {
    }
}
