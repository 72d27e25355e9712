<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

/** What a column adds by code, of each class. */
final readonly class Curve
{
    /**
     * @param int                      $column its place among the codes
     * @param list<list<float>>        $adds   per class and code, that for missing first
     * @param list<list<float>>        $spread standard deviation over bags
     * @param list<float>              $rows   weight of training rows by code
     * @param array{float, float}|null $ends   least and greatest value of a number
     */
    public function __construct(
        public int $column,
        public array $adds,
        public array $spread,
        public array $rows,
        public ?array $ends,
        public bool $isDate,
    ) {
    }

    /** What it adds on average, up or down. */
    public function carries(int $class): float
    {
        $sum = 0.0;
        foreach ($this->rows as $code => $n) {
            $sum += $n * abs($this->adds[$class][$code]);
        }

        return $sum / max(1e-300, array_sum($this->rows));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'column' => $this->column,
            'adds' => $this->adds,
            'spread' => $this->spread,
            'rows' => $this->rows,
            'ends' => $this->ends,
            'date' => $this->isDate,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     column: int, adds: list<list<float|int>>, spread: list<list<float|int>>, rows: list<float|int>,
         *     ends: array{float|int, float|int}|null, date: bool,
         * } $data
         */
        return new self(
            $data['column'],
            array_map(static fn (array $l): array => array_map(floatval(...), $l), $data['adds']),
            array_map(static fn (array $l): array => array_map(floatval(...), $l), $data['spread']),
            array_map(floatval(...), $data['rows']),
            null === $data['ends'] ? null : [(float) $data['ends'][0], (float) $data['ends'][1]],
            $data['date'],
        );
    }
}
