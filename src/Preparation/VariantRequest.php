<?php

declare(strict_types=1);

namespace App\Preparation;

use Symfony\Component\Validator\Constraints as Assert;

/** Name and steps of a variant. */
final readonly class VariantRequest
{
    /**
     * @param list<array<string, mixed>>|null $steps    each with "step" and its settings, optionally "note" and "off"
     * @param ?int                            $copyFrom a variant whose steps to begin with
     * @param ?int                            $look     the step to look at closely, from 0
     */
    public function __construct(
        #[Assert\Length(max: 120, maxMessage: 'A variant name has at most 120 letters.')]
        public ?string $name = null,
        #[Assert\All([new Assert\Type('array', message: 'A step is an object with "step" and its settings.')])]
        public ?array $steps = null,
        public ?int $copyFrom = null,
        public ?int $look = null,
    ) {
    }
}
