<?php

declare(strict_types=1);

namespace App\Reasons;

use Dokimos\Core\Explain\Free;
use Symfony\Component\Validator\Constraints as Assert;

/** A column that may be changed. */
final readonly class FreeRequest
{
    /**
     * @param ?float        $least  of a number; for a date days since 1970
     * @param string        $way    whether a number may only rise, or fall
     * @param ?list<string> $values a category may have; null = any that was seen
     */
    public function __construct(
        public string $column = '',
        public ?float $least = null,
        public ?float $most = null,
        #[Assert\Choice([Free::ANY, Free::UP, Free::DOWN], message: 'A column goes any way, up, or down.')]
        public string $way = Free::ANY,
        #[Assert\Positive(message: 'A step is above 0.')]
        public ?float $step = null,
        #[Assert\All([new Assert\Type('string', message: 'Values are text.')])]
        public ?array $values = null,
        #[Assert\Range(min: 0.01, max: 1000, notInRangeMessage: 'A change costs 0.01 to 1,000.')]
        public float $cost = 1.0,
    ) {
    }

    public function free(): Free
    {
        return new Free($this->column, $this->least, $this->most, $this->way, $this->step, $this->values, $this->cost);
    }
}
