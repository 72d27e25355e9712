<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Bootstrap;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** Agreement of what was said with what came, beyond that of chance (Cohen 1960). */
final readonly class Kappa extends Figure
{
    public function __construct()
    {
        parent::__construct('kappa', 'kappa', 'agreement beyond chance', 'Agreement beyond what chance alone would reach.', [Task::MORE], true, false, least: -1.0, most: 1.0);
    }

    protected function measured(Sample $sample): ?float
    {
        return $this->isDefined($sample) ? Bootstrap::agreement($sample->confusion())[1] : null;
    }

    public function interval(Sample $sample): ?Interval
    {
        return $this->isDefined($sample) ? $sample->agreement()['kappa'] : null;
    }

    public function baseline(Sample $sample): float
    {
        return 0.0;
    }

    /** Where one class alone came and was said, chance agrees always. */
    private function isDefined(Sample $sample): bool
    {
        foreach ($sample->confusion() as $class => $row) {
            if ($row[$class] === $sample->rows()) {
                return false;
            }
        }

        return true;
    }
}
