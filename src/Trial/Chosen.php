<?php

declare(strict_types=1);

namespace App\Trial;

/** That a trial was chosen among many tries, and what its figure is when luck is taken out: this one ranks. */
final readonly class Chosen
{
    /**
     * @param string $figure    key of the figure that the search ran for
     * @param int    $tries     that it is the best of
     * @param float  $searching the figure while searching
     * @param float  $value     corrected, with its interval
     */
    public function __construct(
        public int $searchId,
        public string $figure,
        public int $tries,
        public float $searching,
        public float $value,
        public ?float $low,
        public ?float $high,
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return get_object_vars($this);
    }

    /** @param array<string, mixed> $kept */
    public static function fromArray(array $kept): self
    {
        /** @var array{searchId: int, figure: string, tries: int, searching: float|int, value: float|int, low: float|int|null, high: float|int|null} $k */
        $k = $kept;
        $float = static fn (float|int|null $v): ?float => null === $v ? null : (float) $v;

        return new self(
            $k['searchId'],
            $k['figure'],
            $k['tries'],
            (float) $k['searching'],
            (float) $k['value'],
            $float($k['low']),
            $float($k['high']),
        );
    }
}
