<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** The area under the precision-recall curve, without interpolation; its interval by drawing the records again. */
final readonly class AveragePrecision extends Figure
{
    public function __construct()
    {
        parent::__construct('averagePrecision', 'average precision', 'area under the precision-recall curve', 'How right calls are, over all shares caught: of little use to flatter where the event is rare.', [Task::TWO], true, least: 0.0, most: 1.0);
    }

    protected function measured(Sample $sample): ?float
    {
        return (null === $sample->weights ? $sample->scores() : new BinaryScores($sample->outcome, $sample->answers->values, $sample->weights))->averagePrecision();
    }

    public function interval(Sample $sample): Interval
    {
        return $sample->drawn()['averagePrecision'];
    }

    public function baseline(Sample $sample): float
    {
        return $sample->mean(false);
    }
}
