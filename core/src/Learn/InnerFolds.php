<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Random;
use Dokimos\Core\Task\Task;

/** Training rows in parts by which a learner judges itself before it answers: each part by a model that has not read it. */
final class InnerFolds
{
    /**
     * Drawn by chance, classes in proportion; what belongs together stays together.
     *
     * @param list<int> $rows
     *
     * @return list<array{list<int>, list<int>}> rows to learn from and rows to judge, none of the latter twice; fewer than asked for where
     *                                           there are too few rows
     */
    public static function of(Task $task, array $rows, int $folds, string $purpose): array
    {
        $random = Random::stream(null, $purpose);
        $parts = null !== $task->apart ? $task->apart->parts($rows, $folds, $random) : array_fill(0, $folds, []);
        if (null === $task->apart) {
            $by = [];
            foreach ($random->shuffleArray($rows) as $row) {
                $by[null === $task->classes ? 0 : (int) $task->outcome[$row]][] = $row;
            }
            ksort($by);
            foreach (array_merge(...array_values($by)) as $i => $row) {
                $parts[$i % $folds][] = $row;
            }
        }
        $out = [];
        foreach ($parts as $own) {
            if ([] !== $own && \count($own) < \count($rows)) {
                sort($own);
                $in = array_fill_keys($own, true);
                $out[] = [array_values(array_filter($rows, static fn (int $row): bool => !isset($in[$row]))), $own];
            }
        }

        return $out;
    }
}
