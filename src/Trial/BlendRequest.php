<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Blend\Mixing;
use Symfony\Component\Validator\Constraints as Assert;

/** Which trials answer together, and how their answers become one. */
final readonly class BlendRequest
{
    /** @param list<int> $trials their ids */
    public function __construct(
        #[Assert\Count(
            min: 2,
            max: 10,
            minMessage: 'A blend is made of two trials or more.',
            maxMessage: 'A blend is made of ten trials at most.',
        )]
        #[Assert\All([new Assert\Type('int', message: 'Trials are named by their numbers.')])]
        #[Assert\Unique(message: 'A trial is in a blend once.')]
        public array $trials = [],
        #[Assert\Choice(Mixing::WAYS, message: 'Answers are blended by their mean, by weights, or by a regression on log-odds.')]
        public string $how = Mixing::WEIGHTS,
    ) {
    }
}
