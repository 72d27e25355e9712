<?php

declare(strict_types=1);

namespace App\Decision;

use Symfony\Component\Validator\Constraints as Assert;

/** Keeps a scoring so that it can be done again. */
final readonly class RoutineRequest
{
    public function __construct(
        #[Assert\Positive(message: 'Choose the trial that scores.')]
        public int $trialId = 0,
        #[Assert\NotBlank(message: 'The routine needs a name.'), Assert\Length(max: 120, maxMessage: 'A name has 120 characters at most.')]
        public string $name = '',
        #[Assert\Valid]
        public RoutinePlan $plan = new RoutinePlan(),
    ) {
    }
}
