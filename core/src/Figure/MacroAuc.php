<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** The mean of the AUCs of each class against all others; where a class does not occur it is not defined. */
final readonly class MacroAuc extends Figure
{
    public function __construct()
    {
        parent::__construct('macroAuc', 'macro AUC', 'mean AUC of each class against all others', 'How each class ranks against all others, on average.', [Task::MORE], true, false, least: 0.0, most: 1.0);
    }

    protected function measured(Sample $sample): ?float
    {
        $sum = 0.0;
        foreach ($sample->answers->lists() as $class => $chances) {
            $auc = (new BinaryScores(array_map(static fn (float $y): float => (int) $y === $class ? 1.0 : 0.0, $sample->outcome), $chances, $sample->weights))->auc();
            if (null === $auc) {
                return null;
            }
            $sum += $auc;
        }

        return $sum / $sample->answers->width;
    }

    public function interval(Sample $sample): ?Interval
    {
        $areas = array_values(array_filter($sample->areas()));

        return [] === $areas || \count($areas) < $sample->answers->width ? null : DeLong::mean($areas);
    }

    public function baseline(Sample $sample): float
    {
        return 0.5;
    }
}
