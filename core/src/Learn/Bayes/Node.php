<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

/** A column of the network with its table: how often each value occurs in a class, beside each value of its parent. */
final readonly class Node
{
    /**
     * @param ?int              $parent place of the column it hangs on; null = the root
     * @param ?float            $link   conditional mutual information with it, nats
     * @param float             $tells  mutual information with the target, nats
     * @param list<list<float>> $counts by class times values of the parent (of the root one), and value
     * @param list<list<float>> $alone  by class and value, whatever the parent: where the parent's value is not known
     */
    public function __construct(
        public Discrete $values,
        public ?int $parent,
        public ?float $link,
        public float $tells,
        private array $counts,
        private array $alone,
        private float $smoothing,
    ) {
    }

    /** @return list<list<float>> logarithm of the chance of each value: by class times values of the parent */
    public function logs(): array
    {
        return array_map($this->logsOf(...), $this->counts);
    }

    /** @return list<list<float>> the same whatever the parent, by class */
    public function alone(): array
    {
        return array_map($this->logsOf(...), $this->alone);
    }

    /**
     * @param list<float> $counts
     *
     * @return list<float>
     */
    private function logsOf(array $counts): array
    {
        $all = array_sum($counts) + $this->smoothing * \count($counts);

        return array_map(
            fn (float $c): float => log(max(1e-300, $all > 0.0 ? ($c + $this->smoothing) / $all : 1.0 / \count($counts))),
            $counts,
        );
    }

    /** @return list<float> weight of training rows by class times values of the parent */
    public function rows(): array
    {
        return array_map(static fn (array $c): float => (float) array_sum($c), $this->counts);
    }

    /** @return list<float> weight of training rows of each value, by class times values of the parent given */
    public function counted(int $group): array
    {
        return $this->counts[$group];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'values' => $this->values->toArray(), 'parent' => $this->parent, 'link' => $this->link, 'tells' => $this->tells,
            'counts' => $this->counts, 'alone' => $this->alone, 'smoothing' => $this->smoothing,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     values: array<string, mixed>, parent: ?int, link: float|int|null, tells: float|int,
         *     counts: list<list<float|int>>, alone: list<list<float|int>>, smoothing: float|int,
         * } $data
         */

        return new self(
            Discrete::fromArray($data['values']),
            $data['parent'],
            null === $data['link'] ? null : (float) $data['link'],
            (float) $data['tells'],
            array_map(static fn (array $own): array => array_map(floatval(...), $own), $data['counts']),
            array_map(static fn (array $own): array => array_map(floatval(...), $own), $data['alone']),
            (float) $data['smoothing'],
        );
    }
}
