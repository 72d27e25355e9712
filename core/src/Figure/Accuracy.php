<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** How often what was said is what came: of several classes the likeliest, of an event more likely than not. */
final readonly class Accuracy extends RowMean
{
    private function __construct(string $title, string $task, bool $judged)
    {
        parent::__construct('accuracy', 'accuracy', $title, 'How often what is said is what came; misleading where one outcome is frequent.', [$task], true, judged: $judged, inShare: true, least: 0.0, most: 1.0);
    }

    public static function ofClasses(): self
    {
        return new self('share of rows whose likeliest class is right', Task::MORE, true);
    }

    /** The page of a trial gives that of the cut-off in force instead. */
    public static function ofEvent(): self
    {
        return new self('share of rows on the right side of one half', Task::TWO, false);
    }

    public function losses(Sample $sample): array
    {
        $answers = $sample->answers;
        $half = CutOff::half();
        $out = [];
        foreach ($sample->outcome as $row => $y) {
            $out[] = ($answers->width > 1 ? $answers->likeliest($row) === (int) $y : $half->calls($answers->values[$row]) === $y > 0.5) ? 1.0 : 0.0;
        }

        return $out;
    }

    public function interval(Sample $sample): Interval
    {
        return Interval::wilson(array_sum($this->losses($sample)), $sample->rows());
    }

    public function baseline(Sample $sample): float
    {
        if (1 === $sample->answers->width) {
            $rate = $sample->mean(false);

            return max($rate, 1 - $rate);
        }

        return max([0, ...array_map(array_sum(...), $sample->confusion())]) / $sample->rows();
    }
}
