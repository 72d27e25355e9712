<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Task\Task;

/** The mean squared distance of the chance from what happened (Brier 1950). */
final readonly class Brier extends RowMean
{
    public function __construct()
    {
        parent::__construct('brier', 'Brier', 'mean squared error of the chance', 'The mean squared distance of chance and outcome; lower is better.', [Task::TWO], false, least: 0.0, most: 1.0);
    }

    public function losses(Sample $sample): array
    {
        return array_map(static fn (float $y, float $p): float => ($p - ($y > 0.5 ? 1.0 : 0.0)) ** 2, $sample->outcome, $sample->answers->values);
    }

    public function baseline(Sample $sample): float
    {
        $rate = $sample->mean();

        return $rate * (1 - $rate);
    }
}
