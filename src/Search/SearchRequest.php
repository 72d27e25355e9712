<?php

declare(strict_types=1);

namespace App\Search;

use App\Trial\ChoiceRequest;
use Dokimos\Core\Search\Draws;
use Symfony\Component\Validator\Constraints as Assert;

/** Asks for a search. */
final readonly class SearchRequest
{
    /**
     * @param list<SpaceRequest>  $spaces     learners with their settings
     * @param list<int>           $variantIds preparations that each setting meets
     * @param list<ChoiceRequest> $choices    choices of columns that each setting meets; all columns when empty
     * @param bool                $allColumns whether all columns are met beside the choices
     * @param ?int                $tries      null for all combinations
     * @param ?int                $rows       learn from so many of the training rows; null = all
     */
    public function __construct(
        #[Assert\Valid, Assert\Count(min: 1, max: 20, minMessage: 'Choose at least one learner.')]
        public array $spaces = [],
        #[Assert\All([new Assert\Type('int', message: 'Variants are named by their number.')])]
        #[Assert\Count(min: 1, max: 20, minMessage: 'Choose at least one variant.')]
        public array $variantIds = [],
        #[Assert\Valid, Assert\Count(max: 20)]
        public array $choices = [],
        public bool $allColumns = true,
        #[Assert\Choice(Draws::WAYS, message: 'A search goes through all combinations, a sample of them, or random draws.')]
        public string $way = Draws::ALL,
        public ?int $tries = null,
        public int $seed = 2026,
        public ?int $rows = null,
    ) {
    }
}
