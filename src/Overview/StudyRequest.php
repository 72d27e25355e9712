<?php

declare(strict_types=1);

namespace App\Overview;

use Symfony\Component\Validator\Constraints as Assert;

/** Name and question of a study; with an upload the file becomes its first table. */
final readonly class StudyRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'The study needs a name.'), Assert\Length(max: 120, maxMessage: 'A study name has at most 120 letters.')]
        public string $name = '',
        #[Assert\Length(max: 300, maxMessage: 'A question has at most 300 letters.')]
        public string $question = '',
        public ?int $uploadId = null,
    ) {
    }
}
