<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

/** Codes of a column in fewer groups of about as many rows, for what two columns do together. The first group is missing values. */
final readonly class Grid
{
    /** @param list<int> $groups group of each code, that for missing first */
    public function __construct(public array $groups, public int $size)
    {
    }

    /**
     * @param list<int> $codes of training rows
     * @param int       $size  codes without that for missing
     */
    public static function of(array $codes, int $size, bool $isOrder, int $most): self
    {
        $counts = array_fill(0, $size + 1, 0);
        foreach ($codes as $code) {
            ++$counts[$code];
        }
        $groups = [0];
        if (!$isOrder) {
            // Levels come with the frequent ones first: the others share the last group.
            for ($code = 1; $code <= $size; ++$code) {
                $groups[] = min($code, $most);
            }

            return new self($groups, min($size, $most) + 1);
        }
        $all = array_sum($counts) - $counts[0];
        $group = 1;
        $held = $left = 0;
        $left = $all;
        for ($code = 1; $code <= $size; ++$code) {
            $room = $left / max(1, $most - $group + 1);
            if ($held > 0 && $held + $counts[$code] / 2 > $room && $group < $most) {
                ++$group;
                $left -= $held;
                $held = 0;
            }
            $groups[] = $group;
            $held += $counts[$code];
        }

        return new self($groups, $group + 1);
    }

    /**
     * @param list<int> $codes
     *
     * @return list<int>
     */
    public function places(array $codes): array
    {
        $groups = $this->groups;
        $out = [];
        foreach ($codes as $code) {
            $out[] = $groups[$code];
        }

        return $out;
    }
}
