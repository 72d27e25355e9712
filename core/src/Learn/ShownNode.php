<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A column in a network: what it tells, what it hangs on, and its table. */
final readonly class ShownNode
{
    /**
     * @param float                   $tells  of the target by itself: mutual information in bits
     * @param ?string                 $parent the other column that it hangs on
     * @param ?float                  $link   what the two tell of each other within a class, in bits
     * @param list<string>            $values in words
     * @param list<string>            $given  values of the parent in words; one empty where there is none
     * @param list<list<list<float>>> $shares per value of the parent, class and value
     * @param list<list<float>>       $rows   weight of training rows by value of the parent and class
     */
    public function __construct(
        public string $column,
        public float $tells,
        public ?string $parent,
        public ?float $link,
        public array $values,
        public array $given,
        public array $shares,
        public array $rows,
    ) {
    }
}
