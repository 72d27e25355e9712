<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Learn\GivesReport;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Learn\Selection\BestSubsets;
use Dokimos\Core\Task\Task;

/** What the command line says of a fit, named as in the reference. */
final class FitReport
{
    /** @return array<string, mixed> */
    public static function of(ScoringModel $scoring, Task $task, Options $options): array
    {
        $new = null === $options->text('new') ? null : $scoring->preparation->apply($scoring->select(
            (new CsvFile($options->required('new')))->read()[0],
            $scoring->byName(),
        ))->table;

        return $scoring->model instanceof GivesReport ? $scoring->model->report(
            $task,
            new Reported($options->pairs('set'), $options->is('drop-one'), $new),
        ) : ['chance' => $scoring->baseRate];
    }

    /** @return array<string, mixed> */
    public static function subsets(Task $task, int $keep): array
    {
        $rows = array_values(array_filter(
            $task->usable(),
            static fn (int $r) => [] === array_filter($task->inputs, static fn (string $c) => $task->table->column($c)->isMissing($r)),
        ));
        $of = static fn (array $values): array => array_map(static fn (int $r): float => $values[$r], $rows);

        return ['rows_used' => \count($rows)] + BestSubsets::of(
            array_map(static fn (string $c): array => $of($task->table->number($c)->values), $task->inputs),
            $task->inputs,
            $of($task->outcome),
            $keep,
        );
    }
}
