<?php

declare(strict_types=1);

namespace App\Dossier;

use Symfony\Component\Validator\Constraints as Assert;

/** What of a dossier is left out, and what is said beside it. */
final readonly class DossierRequest
{
    /**
     * @param list<string>         $off      sections that are left out
     * @param list<CommentRequest> $comments all of them
     */
    public function __construct(
        #[Assert\All([new Assert\Type('string')])]
        public array $off = [],
        #[Assert\All([new Assert\Type(CommentRequest::class)])]
        public array $comments = [],
    ) {
    }
}
