<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Random;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\SplitPlan;

/** How a guided search divides the open rows: a judging part that no choice reads, and folds of the others. */
final class Judging
{
    private const SHARE = 0.2;
    /** No more than this is set aside, however few there are. */
    private const MOST = 0.4;
    private const EVENTS = 300;
    private const ROWS = 1000;

    /**
     * A fifth of the rows; more where that would hold fewer than 300 events, or 1,000 rows.
     *
     * @param list<float> $outcome per row of the table
     * @param list<int>   $rows    open rows whose outcome is known
     *
     * @return array{judging: list<int>, choosing: list<int>} both in order
     */
    public static function divide(string $task, array $outcome, array $rows, int $seed, ?Apart $apart = null): array
    {
        $n = \count($rows);
        $events = Task::TWO === $task ? array_sum(array_map(static fn (int $r): float => $outcome[$r], $rows)) : 0.0;
        $wanted = Task::TWO === $task ? self::EVENTS / max(1.0, $events) : self::ROWS / max(1, $n);
        $parts = (int) round(1 / max(self::SHARE, min(self::MOST, $wanted)));
        $judging = self::folds($task, $outcome, $rows, max(2, $parts), $seed, $apart, 'judging part')[0];
        sort($judging);
        $held = array_fill_keys($judging, true);

        return ['judging' => $judging, 'choosing' => array_values(array_filter($rows, static fn (int $r): bool => !isset($held[$r])))];
    }

    /**
     * @param list<float> $outcome
     * @param list<int>   $rows
     *
     * @return list<list<int>> folds, events spread evenly over them; groups are not torn apart
     */
    public static function folds(
        string $task,
        array $outcome,
        array $rows,
        int $count,
        int $seed,
        ?Apart $apart = null,
        string $purpose = 'folds',
    ): array {
        if (null !== $apart) {
            return array_values(array_filter(
                $apart->parts($rows, $count, Random::stream($seed, $purpose)),
                static fn (array $p): bool => [] !== $p,
            ));
        }
        $plan = new SplitPlan(0.0, $count, 1, $seed + \strlen($purpose));

        return $plan->parts($outcome, $rows, 0);
    }

    /**
     * The folds as they are weighed.
     *
     * @param list<list<int>> $folds
     *
     * @return list<array{validation: list<int>, training: list<int>}>
     */
    public static function crossed(array $folds): array
    {
        $out = [];
        foreach ($folds as $held => $validation) {
            $training = array_merge(...array_values(array_diff_key($folds, [$held => true])));
            sort($training);
            $out[] = ['validation' => $validation, 'training' => $training];
        }

        return $out;
    }
}
