<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\Surprise;
use Dokimos\Core\Task\Task;

/** How surprised the chances are by what happened: the mean of −ln of the chance given to it. */
final readonly class LogLoss extends RowMean
{
    public function __construct()
    {
        parent::__construct('logLoss', 'log loss', 'mean log loss', 'How surprised the chances are by what came: sure and wrong costs most. The overall shares for everybody are the measure to beat.', [Task::TWO, Task::MORE], false, least: 0.0);
    }

    public function losses(Sample $sample): array
    {
        $answers = $sample->answers;
        $out = [];
        foreach ($sample->outcome as $row => $y) {
            $out[] = Surprise::at($answers->ofClass($row, $answers->width > 1 ? (int) $y : ($y > 0.5 ? 1 : 0)));
        }

        return $out;
    }

    public function baseline(Sample $sample): float
    {
        if (1 === $sample->answers->width) {
            $rate = $sample->mean();

            return $rate > 0.0 && $rate < 1.0 ? -$rate * log($rate) - (1 - $rate) * log(1 - $rate) : 0.0;
        }
        $entropy = 0.0;
        $n = $sample->rows();
        for ($class = 0; $class < $sample->answers->width; ++$class) {
            $own = array_map(static fn (float $y): float => (float) ((int) $y === $class), $sample->outcome);
            $share = null === $sample->weights ? array_sum($own) / $n : (float) Interval::mean($own, $sample->weights)->value;
            $entropy -= $share > 0.0 ? $share * log($share) : 0.0;
        }

        return $entropy;
    }
}
