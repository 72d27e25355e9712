<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

/** A column that may be changed to reach an answer, and how. */
final readonly class Free
{
    public const ANY = 'any';
    public const UP = 'up';
    public const DOWN = 'down';

    /**
     * @param ?float        $least  of a number
     * @param string        $way    whether a number may only rise, or fall
     * @param ?float        $step   a number moves by multiples of it from where it is
     * @param ?list<string> $values a category may have; null = any that was seen
     * @param float         $cost   of changing it at all
     */
    public function __construct(
        public string $column,
        public ?float $least = null,
        public ?float $most = null,
        public string $way = self::ANY,
        public ?float $step = null,
        public ?array $values = null,
        public float $cost = 1.0,
    ) {
    }
}
