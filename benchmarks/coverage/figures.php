<?php

declare(strict_types=1);

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/**
 * Every figure of predicted numbers with its interval, by key.
 *
 * @param non-empty-list<float> $actual
 * @param list<float>           $predicted
 *
 * @return array<string, Interval>
 */
function numberFigures(array $actual, array $predicted): array
{
    $sample = new Sample($actual, new Answers($predicted));
    $out = [];
    foreach (Figures::of(Task::NUMBER) as $figure) {
        $out[$figure->key] = $figure->interval($sample) ?? new Interval(null);
    }

    return $out;
}
