<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** The greatest distance between the shares reached of records with and without the event. */
final readonly class KolmogorovSmirnov extends Figure
{
    public function __construct()
    {
        parent::__construct('ks', 'KS', 'greatest distance of the two distributions of the chance', 'The greatest distance between the shares called of records with and without the event.', [Task::TWO], true, false, least: 0.0, most: 1.0);
    }

    protected function measured(Sample $sample): float
    {
        return (null === $sample->weights ? $sample->scores() : new BinaryScores($sample->outcome, $sample->answers->values, $sample->weights))->ks()['statistic'];
    }

    public function interval(Sample $sample): Interval
    {
        return $sample->drawn()['ks'];
    }

    public function baseline(Sample $sample): float
    {
        return 0.0;
    }
}
