<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Random;
use Dokimos\Core\Table\Rows;
use Dokimos\Core\Task\Task;
use Random\Randomizer;

/** Training rows that a learner keeps back from itself to choose by, and what a model loses on rows. */
final class HeldOut
{
    private const LEAST = 1e-15;

    /**
     * Divided as the study divides its rows: what is kept back is drawn by chance, in whole groups, or is the latest.
     *
     * @param list<int> $rows
     *
     * @return array{list<int>, list<int>} the rest and the rows kept back, each in the order given; the same for the same rows
     */
    public static function parts(Task $task, array $rows, float $share, string $purpose): array
    {
        return 0.0 === $share ? [$rows, []] : self::drawn($task, $rows, $share, Random::stream(null, $purpose));
    }

    /**
     * @param list<int> $rows
     *
     * @return array{list<int>, list<int>} rows that are learned from, and rows kept back
     */
    public static function drawn(Task $task, array $rows, float $share, Randomizer $random): array
    {
        $many = (int) round($share * \count($rows));
        $held = null === $task->apart ? \array_slice($random->shuffleArray($rows), 0, $many) : $task->apart->some($rows, $many, $random);
        sort($held);

        return [Rows::without($rows, $held), $held];
    }

    /**
     * Mean log loss of classes, mean squared error of a number; rows that the model cannot answer are left out.
     *
     * @param list<int> $rows
     */
    public static function loss(Model $model, Task $task, array $rows): float
    {
        $loss = $weight = 0.0;
        $shares = match (true) {
            null !== $task->classes && $model instanceof TellsClasses => $model->shares($task->table, $rows),
            default => [$model->predict($task->table, $rows)],
        };
        foreach ($rows as $i => $row) {
            $y = $task->outcome[$row];
            $p = $shares[\count($shares) > 1 ? (int) $y : 0][$i];
            if (is_nan($p)) {
                continue;
            }
            $w = $task->weights[$row] ?? 1.0;
            $weight += $w;
            $loss += $w * match (true) {
                null === $task->classes => ($y - $p) * ($y - $p),
                \count($shares) > 1 => -log(max(self::LEAST, $p)),
                default => -log(max(self::LEAST, $y > 0.5 ? $p : 1.0 - $p)),
            };
        }

        return $weight > 0.0 ? $loss / $weight : \INF;
    }
}
