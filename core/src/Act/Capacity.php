<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/** How many actions there can be: in all, and for each value of a column such as a day or a district. */
final readonly class Capacity
{
    /**
     * @param ?int          $most   in all; null = no limit
     * @param ?int          $each   for each group; null = no limit
     * @param list<?string> $groups of each record; none where there is no limit for each
     */
    public function __construct(public ?int $most = null, public ?int $each = null, public array $groups = [])
    {
    }

    /**
     * Those of an order that fit.
     *
     * @param list<int> $order
     *
     * @return list<int>
     */
    public function fit(array $order): array
    {
        $most = $this->most ?? \PHP_INT_MAX;
        if (null === $this->each) {
            return \count($order) <= $most ? $order : \array_slice($order, 0, $most);
        }
        $out = $taken = [];
        foreach ($order as $row) {
            if (\count($out) >= $most) {
                break;
            }
            $group = $this->groups[$row] ?? '';
            $taken[$group] = ($taken[$group] ?? 0) + 1;
            if ($taken[$group] <= $this->each) {
                $out[] = $row;
            }
        }

        return $out;
    }

    /** The same with more room: so that a share can be left untouched and the rest is still as many. */
    public function lengthened(float $share): self
    {
        $more = static fn (?int $n): ?int => null === $n ? null : (int) ceil($n / (1.0 - $share) - 1e-9);

        return new self($more($this->most), $more($this->each), $this->groups);
    }
}
