<?php

declare(strict_types=1);

namespace Dokimos\Core\Task;

use Random\Randomizer;

/** How rows that belong together are kept on one side when a learner keeps some back from itself: whole groups, or what came last. */
final readonly class Apart
{
    /**
     * @param bool                        $inTime whether labels are moments: the latest are kept back
     * @param list<int|float|string|null> $labels one per row of the table; a row without one stands alone
     */
    public function __construct(private bool $inTime, private array $labels)
    {
    }

    /**
     * Whole groups of rows, about as many rows as asked for; never all of them.
     *
     * @param list<int> $rows
     *
     * @return list<int>
     */
    public function some(array $rows, int $many, Randomizer $random): array
    {
        $groups = $this->groups($rows);
        if ($this->inTime) {
            // Rows without a moment are no later than any other: they stay.
            $groups = array_filter($groups, static fn (string $label): bool => !str_starts_with($label, 'row '), \ARRAY_FILTER_USE_KEY);
            uksort($groups, static fn (string $a, string $b): int => (float) substr($b, 3) <=> (float) substr($a, 3));
            $groups = array_values($groups);
        } else {
            $groups = $random->shuffleArray(array_values($groups));
        }
        $out = [];
        foreach ($groups as $own) {
            if (\count($out) + 0.5 * \count($own) < $many && \count($out) + \count($own) < \count($rows)) {
                array_push($out, ...$own);
            } elseif ($this->inTime) {
                break;
            }
        }

        return $out;
    }

    /**
     * Rows in so many parts of about the same size; a group is in one of them.
     *
     * @param list<int> $rows
     *
     * @return list<list<int>>
     */
    public function parts(array $rows, int $parts, Randomizer $random): array
    {
        $out = array_fill(0, $parts, []);
        foreach ($random->shuffleArray(array_values($this->groups($rows))) as $own) {
            $sizes = array_map(\count(...), $out);
            $place = (int) array_search(min([\PHP_INT_MAX, ...$sizes]), $sizes, true);
            array_push($out[$place], ...$own);
        }

        return array_values($out);
    }

    /**
     * @param list<int> $rows
     *
     * @return array<string, list<int>>
     */
    private function groups(array $rows): array
    {
        $groups = [];
        foreach ($rows as $row) {
            $label = $this->labels[$row] ?? null;
            $groups[null === $label ? 'row '.$row : 'of '.$label][] = $row;
        }

        return $groups;
    }
}
