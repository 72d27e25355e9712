<?php

declare(strict_types=1);

namespace App\Score;

use Symfony\Component\Validator\Constraints as Assert;

/** How scored records become a table of the study. */
final readonly class KeepRequest
{
    /**
     * @param string        $name  of the table; under a name that there is it becomes the next edition
     * @param string        $as    name of the answer; empty = the target's
     * @param ?list<string> $carry columns of the records that are carried along; null = all
     */
    public function __construct(
        #[Assert\NotBlank(message: 'The table needs a name.')]
        #[Assert\Length(max: 120, maxMessage: 'A name has 120 characters at most.')]
        public string $name = '',
        #[Assert\Length(max: 60, maxMessage: 'The name of an answer has 60 characters at most.')]
        public string $as = '',
        #[Assert\All([new Assert\Type('string', message: 'Columns are named by text.')])]
        public ?array $carry = null,
    ) {
    }
}
