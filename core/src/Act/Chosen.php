<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/** Who is on a list: those acted on, and those left untouched by draw. */
final readonly class Chosen
{
    /**
     * @param list<int> $acted best first
     * @param list<int> $left  in the same order
     */
    private function __construct(public array $acted, public array $left)
    {
    }

    /**
     * Those that were chosen before, under the same terms.
     *
     * @param list<int> $acted
     * @param list<int> $left
     */
    public static function again(array $acted, array $left): self
    {
        return new self($acted, $left);
    }

    /**
     * @param float                 $share that is left untouched; the list is lengthened so that as many are acted on
     * @param \Closure(int): string $tie   tells a record
     */
    public static function of(ActionList $list, Capacity $capacity, float $share, \Closure $tie, int|string $seed): self
    {
        if ($share <= 0.0) {
            return new self($list->chosen($capacity), []);
        }
        $long = $list->chosen($capacity->lengthened($share));
        $left = ComparisonGroup::drawn($long, $share, $capacity, $tie, $seed);
        $untouched = array_fill_keys($left, true);

        return new self(array_values(array_filter($long, static fn (int $row): bool => !isset($untouched[$row]))), $left);
    }

    /**
     * All of them in the order of the list.
     *
     * @return list<int>
     */
    public function together(ActionList $list): array
    {
        if ([] === $this->left) {
            return $this->acted;
        }
        $on = array_fill_keys([...$this->acted, ...$this->left], true);

        return array_values(array_filter($list->order, static fn (int $row): bool => isset($on[$row])));
    }
}
