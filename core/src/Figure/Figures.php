<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Task\Task;

/** All figures there are: whoever judges, ranks, searches or compares asks here. */
final class Figures
{
    /** @return non-empty-list<Figure> of each task the one that trials are ranked by first */
    private static function registered(): array
    {
        return [
            new Auc(),
            new Rmse(),
            new LogLoss(),
            new AveragePrecision(),
            new KolmogorovSmirnov(),
            new Brier(),
            Accuracy::ofEvent(),
            Accuracy::ofClasses(),
            new BalancedAccuracy(),
            new Kappa(),
            new MacroAuc(),
            new MeanAbsoluteError(),
            new ShareExplained(),
            Within::half(),
            Within::mostRows(),
            new Bias(),
        ];
    }

    /** The one that trials of a task are ranked by. */
    public static function ranking(string $task): Figure
    {
        return self::of($task)[0];
    }

    /**
     * @return non-empty-list<Figure> of a task
     *
     * @throws \InvalidArgumentException there is no task "…"
     */
    public static function of(string $task): array
    {
        $own = array_values(array_filter(self::registered(), static fn (Figure $f): bool => \in_array($task, $f->tasks, true)));

        return [] === $own ? throw new \InvalidArgumentException(\sprintf('There is no task "%s".', $task)) : $own;
    }

    /**
     * @param string $name or key, in any letter case
     *
     * @throws \InvalidArgumentException when the task has no such figure
     */
    public static function named(string $task, string $name): Figure
    {
        if (Task::TWO === $task && str_starts_with($name, ExpectedReturn::PREFIX)) {
            return ExpectedReturn::ofKey($name);
        }
        foreach (self::of($task) as $figure) {
            if (0 === strcasecmp($figure->name, $name) || 0 === strcasecmp($figure->key, $name)) {
                return $figure;
            }
        }

        throw new \InvalidArgumentException(\sprintf(
            'There is no figure "%s"; there are %s.',
            $name,
            implode(', ', array_map(static fn (Figure $f): string => $f->name, self::of($task))),
        ));
    }
}
