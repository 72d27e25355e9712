<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Act\Economics;
use Symfony\Component\Validator\Constraints as Assert;

/** What acting costs and brings, how much of it there can be, and where tiers end: all that makes a list of scored records. */
final readonly class DecisionTerms
{
    /**
     * @param string                                          $unit        of money
     * @param float                                           $works       how often an action prevents the event, as it is thought
     * @param float                                           $worksLow    at least
     * @param float                                           $worksHigh   at most
     * @param float                                           $worth       of a prevented event, where no column tells it
     * @param ?string                                         $worthColumn column of the scored table that tells it
     * @param ?int                                            $most        actions in all; null = no limit
     * @param ?int                                            $each        actions for each value of a column; null = no limit
     * @param ?string                                         $eachBy      that column
     * @param list<float>                                     $chanceEdges rising
     * @param list<float>                                     $valueEdges  rising
     * @param float                                           $share       left untouched by draw, for comparison
     * @param ?float                                          $limit       of a number: over, or under, it is the event
     * @param list<array{name: string, amounts: list<float>}> $actions     of several classes: an amount for each
     * @param list<float>                                     $nothing     amounts of doing nothing, one for each class
     */
    public function __construct(
        #[Assert\Range(min: 0, max: 1e12, notInRangeMessage: 'An action costs nothing or more.')]
        public float $cost = 5.0,
        #[Assert\Length(max: 8, maxMessage: 'A unit of money has 8 characters at most.')]
        public string $unit = '€',
        #[Assert\Range(min: 0, max: 1, notInRangeMessage: 'An action works in 0 to 100 of 100 cases.')]
        public float $works = 0.3,
        #[Assert\Range(min: 0, max: 1, notInRangeMessage: 'An action works in 0 to 100 of 100 cases.')]
        public float $worksLow = 0.2,
        #[Assert\Range(min: 0, max: 1, notInRangeMessage: 'An action works in 0 to 100 of 100 cases.')]
        public float $worksHigh = 0.4,
        #[Assert\Range(min: 0, max: 1e12, notInRangeMessage: 'A prevented event is worth nothing or more.')]
        public float $worth = 100.0,
        #[Assert\Length(max: 255)]
        public ?string $worthColumn = null,
        #[Assert\Range(min: 0, max: 1, notInRangeMessage: 'The share of the value that stays is 0 to 100%.')]
        public float $kept = 1.0,
        #[Assert\Range(min: 0, max: 1e12, notInRangeMessage: 'What is paid on success is nothing or more.')]
        public float $costOnSuccess = 0.0,
        #[Assert\Range(min: 0, max: 1e12, notInRangeMessage: 'Acting in vain costs nothing or more.')]
        public float $costInVain = 0.0,
        #[Assert\Range(min: 0, max: 1e9, notInRangeMessage: 'There can be no fewer than 0 actions.')]
        public ?int $most = null,
        #[Assert\Range(min: 0, max: 1e9, notInRangeMessage: 'There can be no fewer than 0 actions.')]
        public ?int $each = null,
        #[Assert\Length(max: 255)]
        public ?string $eachBy = null,
        #[Assert\Count(max: 4, maxMessage: 'Five bands of chance are the most.'), Assert\All([new Assert\Type('numeric')])]
        public array $chanceEdges = [],
        #[Assert\Count(max: 4, maxMessage: 'Five bands of value are the most.'), Assert\All([new Assert\Type('numeric')])]
        public array $valueEdges = [],
        #[Assert\Range(min: 0, max: 0.5, notInRangeMessage: 'At most half of a list is left untouched.')]
        public float $share = 0.0,
        public int $seed = 2026,
        public ?float $limit = null,
        #[Assert\Choice(['over', 'under'], message: 'A number is over the limit, or under it.')]
        public string $side = 'over',
        #[Assert\Count(max: 12, maxMessage: 'Twelve actions are the most.')]
        #[Assert\All([new Assert\Collection([
            'name' => [new Assert\Type('string'), new Assert\Length(max: 60)],
            'amounts' => [new Assert\All([new Assert\Type('numeric')])],
        ])])]
        public array $actions = [],
        #[Assert\All([new Assert\Type('numeric')])]
        public array $nothing = [],
    ) {
    }

    public function economics(): Economics
    {
        return new Economics($this->cost, $this->works, $this->kept, $this->costOnSuccess, $this->costInVain);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return get_object_vars($this);
    }

    /** @return array<string, mixed> all that orders and fills the list: where its tiers end is left out */
    public function withoutEdges(): array
    {
        return array_diff_key($this->toArray(), ['chanceEdges' => 0, 'valueEdges' => 0]);
    }

    /** @param array<string, mixed> $kept what toArray() gave */
    public static function fromArray(array $kept): self
    {
        $whole = new \ReflectionClass(self::class);
        $known = [];
        foreach ($whole->getConstructor()?->getParameters() ?? [] as $parameter) {
            if (\array_key_exists($parameter->getName(), $kept)) {
                $known[$parameter->getName()] = $kept[$parameter->getName()];
            }
        }

        return $whole->newInstanceArgs($known);
    }

    /** @return list<float> */
    public function edges(bool $ofValue): array
    {
        return array_values(array_map(floatval(...), $ofValue ? $this->valueEdges : $this->chanceEdges));
    }
}
