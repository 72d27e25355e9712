<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

/** What two columns do together by cell, of each class. */
final readonly class Pair
{
    /**
     * @param int               $first place of a column among the codes
     * @param list<list<float>> $adds  per class and cell: group of the first times the groups of the second, and group of the second
     * @param list<float>       $rows  weight of training rows by cell
     */
    public function __construct(
        public int $first,
        public int $second,
        public Grid $firstGrid,
        public Grid $secondGrid,
        public array $adds,
        public array $rows,
    ) {
    }

    public function carries(int $class): float
    {
        $sum = 0.0;
        foreach ($this->rows as $cell => $n) {
            $sum += $n * abs($this->adds[$class][$cell]);
        }

        return $sum / max(1e-300, array_sum($this->rows));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'first' => $this->first, 'second' => $this->second, 'first_groups' => $this->firstGrid->groups,
            'second_groups' => $this->secondGrid->groups, 'sizes' => [$this->firstGrid->size, $this->secondGrid->size],
            'adds' => $this->adds, 'rows' => $this->rows,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     first: int, second: int, first_groups: list<int>, second_groups: list<int>, sizes: array{int, int},
         *     adds: list<list<float|int>>, rows: list<float|int>,
         * } $data
         */
        return new self(
            $data['first'],
            $data['second'],
            new Grid($data['first_groups'], $data['sizes'][0]),
            new Grid($data['second_groups'], $data['sizes'][1]),
            array_map(static fn (array $l): array => array_map(floatval(...), $l), $data['adds']),
            array_map(floatval(...), $data['rows']),
        );
    }
}
