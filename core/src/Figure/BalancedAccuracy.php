<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Bootstrap;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** The mean of the shares found of each class, whatever its size. */
final readonly class BalancedAccuracy extends Figure
{
    public function __construct()
    {
        parent::__construct('balancedAccuracy', 'balanced accuracy', 'mean share found of each class', 'The mean of what is found of each class: rare classes count as much as frequent ones.', [Task::MORE], true, false, inShare: true, least: 0.0, most: 1.0);
    }

    protected function measured(Sample $sample): float
    {
        return Bootstrap::agreement($sample->confusion())[0];
    }

    public function interval(Sample $sample): Interval
    {
        return $sample->agreement()['balancedAccuracy'];
    }

    public function baseline(Sample $sample): float
    {
        return 1 / $sample->answers->width;
    }
}
