<?php

declare(strict_types=1);

namespace App\Dossier;

/** What somebody says beside a section. */
final readonly class CommentView
{
    /** @param bool $print whether the dossier prints it */
    public function __construct(public string $section, public string $text, public bool $print, public string $by, public string $at)
    {
    }
}
