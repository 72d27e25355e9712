<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;

/** A figure that answers are judged by: the one place that knows how it is computed, said, compared and bounded. A new one is a class and a line in Figures. */
abstract readonly class Figure
{
    private const DRAWS = 200;

    /**
     * @param string       $name    as columns are headed
     * @param string       $key     as results name it
     * @param string       $says    what it means to somebody who decides, in a sentence
     * @param list<string> $tasks   what has to be predicted for it to be defined
     * @param bool         $more    whether more is better
     * @param bool         $byFold  whether a fold holds rows enough for it: then it is the mean over the folds, else that of the first repeat
     * @param bool         $judged  whether a trial's page gives it with its interval; else it is asked for by name alone
     * @param bool         $inUnits whether it is told with significant digits, as what is in units of the target, or with three decimals
     * @param bool         $inShare whether it is a share, told in percent
     * @param bool         $ratio   whether its interval is told in ratios, as of a size
     * @param ?float       $least   that it cannot be below
     * @param bool         $ranks   whether more, or less, of it is better, so that trials can be ranked by it
     */
    protected function __construct(public string $key, public string $name, public string $title, public string $says, public array $tasks, public bool $more, public bool $byFold = true, public bool $judged = true, public bool $inUnits = false, public bool $inShare = false, public bool $ratio = false, public ?float $least = null, public ?float $most = null, public bool $ranks = true)
    {
    }

    /** @return ?float null where it is not defined, as the AUC of one outcome alone */
    abstract protected function measured(Sample $sample): ?float;

    /** Its value with an interval, as the rows of a trial's page give it; null where it is not defined. */
    abstract public function interval(Sample $sample): ?Interval;

    /** What doing nothing clever scores: the same answer for all. */
    abstract public function baseline(Sample $sample): ?float;

    /**
     * @param list<float>  $outcome per row
     * @param ?list<float> $weights per row; those of 0 do not count
     *
     * @return ?float null when no row can be answered, or the figure is not defined
     */
    public function value(array $outcome, Answers $answers, ?array $weights = null): ?float
    {
        $sample = Sample::known($outcome, $answers, $weights, true);

        return null === $sample ? null : $this->measured($sample);
    }

    /**
     * First less second on the same rows, and its standard error; here by drawing the rows again, where there is a formula by that.
     *
     * @return ?array{float, float}
     */
    public function difference(Sample $first, Sample $second): ?array
    {
        $values = [$this->measured($first), $this->measured($second)];
        if (null === $values[0] || null === $values[1]) {
            return null;
        }
        $random = Random::stream(null, 'difference of '.$this->key);
        $own = $this->redrawn($first);
        $other = $this->redrawn($second);
        $n = $first->rows();
        $sum = $squares = 0.0;
        $draws = 0;
        for ($k = 0; $k < self::DRAWS; ++$k) {
            $counts = array_fill(0, $n, 0.0);
            for ($i = 0; $i < $n; ++$i) {
                $row = $random->getInt(0, $n - 1);
                $counts[$row] += $first->weights[$row] ?? 1.0;
            }
            $a = $own($counts);
            $b = $other($counts);
            if (null !== $a && null !== $b) {
                $sum += $a - $b;
                $squares += ($a - $b) ** 2;
                ++$draws;
            }
        }

        return [$values[0] - $values[1], $draws < 2 ? 0.0 : sqrt(max(0.0, ($squares - $sum * $sum / $draws) / ($draws - 1)))];
    }

    /**
     * The figure of the same rows, each counted so many times; what does not depend on the counts is done once.
     *
     * @return \Closure(array<int, float|int>): ?float
     */
    public function redrawn(Sample $sample): \Closure
    {
        return function (array $counts) use ($sample): ?float {
            /** @var list<float|int> $counts */
            return $this->value($sample->outcome, $sample->answers, array_map(floatval(...), $counts));
        };
    }

    /**
     * One value for several sets of rows.
     *
     * @param list<array{int, float}> $parts rows and value of each
     */
    public function together(array $parts): float
    {
        $sum = $rows = 0.0;
        foreach ($parts as [$n, $value]) {
            $sum += $n * $value;
            $rows += $n;
        }

        return $sum / max(1.0, $rows);
    }

    /** Of two values the better one first. */
    public function order(?float $a, ?float $b): int
    {
        return match (true) {
            null === $a || null === $b => (null === $a ? 1 : 0) <=> (null === $b ? 1 : 0),
            default => $this->more ? $b <=> $a : $a <=> $b,
        };
    }

    public function said(?float $value): string
    {
        return null === $value ? '–' : ($this->inUnits ? (string) (float) \sprintf('%.4g', $value) : \sprintf('%.3f', $value));
    }
}
