<?php

declare(strict_types=1);

namespace App\Score;

use Symfony\Component\Validator\Constraints as Assert;

/** Which scored records are wanted, in which order, with which of their columns. */
final readonly class ScoredQuery
{
    /** @param list<string> $carry columns of the records to show */
    public function __construct(
        /** Everything, those called on, those left alone, those without an answer, or those of low confidence */
        #[Assert\Choice(choices: ['all', 'called', 'left', 'unscored', 'low'], message: 'Choose all, called, left, unscored or low.')]
        public string $which = 'all',
        /** A column, or "chance" for the answer */
        public string $sort = 'chance',
        public bool $descending = true,
        #[Assert\Length(max: 200)]
        public string $search = '',
        public int $offset = 0,
        public int $limit = 100,
        public array $carry = [],
        /** Of several classes the likeliest */
        public ?string $class = null,
        /** Least answer, with it */
        public ?float $low = null,
        /** Greatest answer, with it */
        public ?float $high = null,
        /** Conditions as JSON: lists of column, relation and values */
        #[Assert\Length(max: 8000)]
        public string $where = '',
        /** Whether one condition is enough */
        public bool $any = false,
    ) {
    }

    public function hasBand(): bool
    {
        return null !== $this->low || null !== $this->high;
    }

    public function holds(float $answer): bool
    {
        return $answer >= ($this->low ?? -\INF) && $answer <= ($this->high ?? \INF);
    }

    public function hasConditions(): bool
    {
        return '' !== $this->where && '[]' !== $this->where;
    }
}
