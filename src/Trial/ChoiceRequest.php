<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Validate\ColumnChoice;
use Symfony\Component\Validator\Constraints as Assert;

/** Which prepared columns may serve; kept under a name when it has one. */
final readonly class ChoiceRequest
{
    /**
     * @param list<string> $names
     * @param bool         $without whether these are left out; else they are the only ones
     */
    public function __construct(
        #[Assert\All([new Assert\Type('string', message: 'Columns are named by text.'), new Assert\Length(max: 255)])]
        #[Assert\Count(min: 1, max: 5000, minMessage: 'Choose at least one column.')]
        public array $names = [],
        public bool $without = false,
        #[Assert\Length(max: 80, maxMessage: 'A name has at most 80 letters.')]
        public string $name = '',
    ) {
    }

    public function choice(): ColumnChoice
    {
        return new ColumnChoice(array_values(array_unique($this->names)), $this->without);
    }
}
