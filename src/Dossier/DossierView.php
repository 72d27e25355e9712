<?php

declare(strict_types=1);

namespace App\Dossier;

/** A dossier as it would be written now. */
final readonly class DossierView
{
    /**
     * @param list<SectionView> $sections all there are, in order
     * @param int               $pages    of the PDF
     * @param list<CommentView> $comments
     */
    public function __construct(public array $sections, public int $pages, public array $comments)
    {
    }
}
