<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/** How columns become terms, as far as there is a choice. Definition: docs/methods/design.md. */
final readonly class Reading
{
    public const REFERENCE = 'reference';
    public const EACH = 'one per value';
    public const ORDERED = 'ordered';
    public const MEANS = 'target mean';
    public const WAYS = [self::REFERENCE, self::EACH, self::ORDERED, self::MEANS];

    /**
     * @param bool                     $marks     missing values are filled and marked; otherwise their rows are left out
     * @param string                   $way       of coding categories
     * @param array<array-key, string> $otherwise the way of some columns
     * @param int                      $rare      values of fewer training rows share one term; 0 or 1 = none do
     * @param ?list<string>            $bent      numbers that bend; null = all
     * @param int                      $knots     of each, 3 to 5
     */
    public function __construct(
        public bool $marks = false,
        private string $way = self::REFERENCE,
        public array $otherwise = [],
        public int $rare = 0,
        private ?array $bent = [],
        public int $knots = 4,
    ) {
    }

    public function bends(string $column): bool
    {
        return null === $this->bent || \in_array($column, $this->bent, true);
    }

    /** @return list<string> numbers that were named to bend */
    public function bent(): array
    {
        return $this->bent ?? [];
    }

    public function way(string $column): string
    {
        return $this->otherwise[$column] ?? $this->way;
    }
}
