<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** Looks at one column after the other. */
abstract readonly class ColumnSearch implements Search
{
    public function among(array $features, array $rows, array $counts): ?Found
    {
        $best = null;
        foreach ($features as $f) {
            $best = Found::better($best, $this->best($f, $rows, $counts));
        }

        return $best;
    }

    /**
     * @param list<int>   $rows
     * @param list<float> $counts weight of each class among them; for a number: weight, sum, sum of squares
     */
    abstract protected function best(int $f, array $rows, array $counts): ?Found;
}
