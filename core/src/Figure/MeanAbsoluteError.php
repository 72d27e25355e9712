<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** How far off predictions are on average. */
final readonly class MeanAbsoluteError extends RowMean
{
    use OfErrors;

    public function __construct()
    {
        parent::__construct('mae', 'MAE', 'mean absolute error', 'How far predictions are off on average; in the unit of the target.', [Task::NUMBER], false, inUnits: true, ratio: true);
    }

    public function losses(Sample $sample): array
    {
        return array_map(abs(...), self::errors($sample));
    }

    public function interval(Sample $sample): Interval
    {
        $sizes = $this->losses($sample);
        if (null !== $sample->weights) {
            return Interval::mean($sizes, $sample->weights, $sample->counts());
        }
        // From the smallest on, so that the sum does not go by the order of rows.
        sort($sizes);

        return Interval::mean($sizes);
    }
}
