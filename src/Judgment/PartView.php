<?php

declare(strict_types=1);

namespace App\Judgment;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Reach;

/** Rows that the same of several trials call, or are right about. */
final readonly class PartView
{
    /**
     * @param list<bool> $called per trial
     * @param ?int       $hits   of these rows with the event; null for other tasks
     * @param Interval   $share  of an event: of these rows with it; else: of all rows that are among these
     */
    public function __construct(public array $called, public int $rows, public ?int $hits, public Interval $share)
    {
    }

    /**
     * @param non-empty-list<float> $outcome
     * @param non-empty-list<Reach> $reaches
     *
     * @return list<self>
     */
    public static function all(string $task, array $outcome, array $reaches, ?float $at): array
    {
        $rows = $hits = [];
        foreach (self::patterns($task, $reaches, $at) as $i => $pattern) {
            $rows[$pattern] = ($rows[$pattern] ?? 0) + 1;
            $hits[$pattern] = ($hits[$pattern] ?? 0) + ($outcome[$i] > 0.5 ? 1 : 0);
        }
        krsort($rows, \SORT_STRING);
        $out = [];
        foreach ($rows as $pattern => $n) {
            $two = Task::TWO === $task;
            $out[] = new self(
                array_map(static fn (string $c): bool => '1' === $c, str_split((string) $pattern)),
                $n,
                $two ? $hits[$pattern] : null,
                $two ? Interval::wilson($hits[$pattern], $n) : Interval::wilson($n, \count($outcome)),
            );
        }

        return $out;
    }

    /**
     * @param non-empty-list<Reach> $reaches
     *
     * @return list<string> per row one 1 or 0 for each trial: whether it calls the row, names it right, or keeps to the error
     */
    public static function patterns(string $task, array $reaches, ?float $at): array
    {
        $out = array_fill(0, \count($reaches[0]->places), 'p');
        foreach ($reaches as $reach) {
            foreach ($reach->places as $i => $place) {
                $out[$i] .= (Task::MORE === $task ? $reach->hits[$i] : $place <= $at) ? '1' : '0';
            }
        }

        return array_map(static fn (string $p): string => substr($p, 1), array_values($out));
    }
}
