<?php

declare(strict_types=1);

namespace App\Approval;

use Symfony\Component\Validator\Constraints as Assert;

/** Lets a trial be used. */
final readonly class ApprovalRequest
{
    /**
     * @param string       $again  the day to look again
     * @param list<string> $groups columns by whose values its figures are told apart
     */
    public function __construct(
        #[Assert\NotBlank(normalizer: 'trim', message: 'Say in a sentence why it may be used.'), Assert\Length(max: 1000)]
        public string $sentence = '',
        #[Assert\NotBlank(normalizer: 'trim', message: 'Say what it is not to be used for.'), Assert\Length(max: 2000)]
        public string $limits = '',
        #[Assert\Date(message: 'The day to look again is a date such as 2027-04-30.'), Assert\NotBlank(message: 'Set a day to look again.')]
        public string $again = '',
        #[Assert\Choice(choices: Approval::RULES, message: 'Missing columns are refused, or answered with low confidence.')]
        public string $rule = Approval::REFUSE,
        #[Assert\Range(min: 0, max: 1, notInRangeMessage: 'A cut-off lies between 0 and 1.')]
        public float $cutoff = 0.5,
        #[Assert\Count(max: 3, maxMessage: 'At most three columns tell groups apart.'), Assert\All([new Assert\Type('string')])]
        public array $groups = [],
    ) {
    }
}
