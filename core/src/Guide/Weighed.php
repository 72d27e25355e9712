<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

/** An idea with what it gained, in company of those kept before it. */
final readonly class Weighed
{
    public const ALL = 'all learners';
    public const STRAIGHT = 'learners that follow a straight line';

    /**
     * @param ?float  $gain of the figure on the same folds, 0 or more where it is better; null when it could not be made
     * @param ?float  $low  of the interval that holds for all ideas at once
     * @param ?string $why  why it could not be made
     * @param string  $for  which learners have it, once kept
     */
    public function __construct(
        public Idea $idea,
        public ?float $gain,
        public ?float $low,
        public ?float $high,
        public bool $kept,
        public ?string $why = null,
        public string $for = self::ALL,
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'idea' => get_object_vars($this->idea),
            'gain' => $this->gain, 'low' => $this->low, 'high' => $this->high, 'kept' => $this->kept, 'why' => $this->why, 'for' => $this->for,
        ];
    }

    /** @param array<string, mixed> $kept */
    public static function fromArray(array $kept): self
    {
        /** @var array{idea: array{name: string, from: string, steps: list<array<string, mixed>>, of: list<string>, first?: bool, wide?: bool}, gain: float|int|null, low: float|int|null, high: float|int|null, kept: bool, why: ?string, for?: string} $k */
        $k = $kept;
        $float = static fn (float|int|null $v): ?float => null === $v ? null : (float) $v;

        return new self(
            new Idea(...$k['idea']),
            $float($k['gain']),
            $float($k['low']),
            $float($k['high']),
            $k['kept'],
            $k['why'],
            $k['for'] ?? self::ALL,
        );
    }
}
