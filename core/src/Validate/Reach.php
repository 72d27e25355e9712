<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Task;

/**
 * How far a model gets with so much: of an event the share of all events among the records with the highest chances, of several classes the
 * share of all records among the surest that are named right, of a number the share of records whose error is at most so large. Two models
 * are held against each other on the same records at the same place. Definition: docs/methods/side-by-side.md.
 */
final readonly class Reach
{
    /**
     * @param list<float> $places per record: its rank from 1 by chance or by sureness; of a number its absolute error
     * @param list<bool>  $hits   per record: whether reaching it counts
     * @param int         $of     what could be reached in all
     */
    private function __construct(public array $places, public array $hits, public int $of)
    {
    }

    /** Records of the same chance stand in an order drawn once, the same for every model, so that none gains by the table's order. */
    public static function of(string $task, Sample $sample): self
    {
        $outcome = $sample->outcome;
        if (Task::NUMBER === $task) {
            $errors = array_map(static fn (float $y, float $said): float => abs($y - $said), $outcome, $sample->answers->values);

            return new self($errors, array_fill(0, \count($errors), true), \count($errors));
        }
        $sure = $hits = [];
        foreach ($outcome as $i => $y) {
            if (Task::TWO === $task) {
                $sure[] = $sample->answers->values[$i];
                $hits[] = $y > 0.5;
                continue;
            }
            $named = $sample->answers->likeliest($i);
            $sure[] = $sample->answers->ofClass($i, $named);
            $hits[] = $named === (int) $y;
        }
        $rows = \count($sure);
        $order = Random::stream(null, 'order of equal chances')->shuffleArray(range(0, $rows - 1));
        // Stable: of equal chances the drawn order stays.
        usort($order, static fn (int $a, int $b): int => $sure[$b] <=> $sure[$a]);
        $places = array_fill(0, $rows, 0.0);
        foreach ($order as $rank => $i) {
            $places[$i] = $rank + 1.0;
        }

        return new self(array_values($places), $hits, Task::TWO === $task ? \count(array_filter($hits)) : $rows);
    }

    /**
     * @param list<float> $xs rising: numbers of records, or sizes of an error
     *
     * @return list<int> how many are reached up to each
     */
    public function reached(array $xs): array
    {
        $counts = array_fill(0, \count($xs) + 1, 0);
        foreach ($this->places as $i => $place) {
            if ($this->hits[$i]) {
                ++$counts[self::first($xs, $place)];
            }
        }
        $sum = 0;

        return array_map(static function (int $c) use (&$sum): int {
            return $sum += $c;
        }, \array_slice($counts, 0, \count($xs)));
    }

    /**
     * What this one reaches more of all than another up to each place, with its 95 % interval: only records that one reaches and the other
     * does
     * not tell of it, as in a test of paired shares (McNemar 1947).
     *
     * @param self        $other of the same records
     * @param list<float> $xs    rising
     * @param int         $pairs of models that the two are among: the interval holds for all at once (Bonferroni)
     *
     * @return list<Interval> in shares of what could be reached in all
     */
    public function less(self $other, array $xs, int $pairs = 1): array
    {
        $z = (new Normal())->quantile(1 - 0.025 / max(1, $pairs));
        $own = $others = array_fill(0, \count($xs) + 1, 0);
        foreach ($this->places as $i => $place) {
            $a = $this->hits[$i] ? self::first($xs, $place) : \count($xs);
            $b = $other->hits[$i] ? self::first($xs, $other->places[$i]) : \count($xs);
            // Between the two places only one of them has it.
            if ($a < $b) {
                ++$own[$a];
                --$own[$b];
            } elseif ($b < $a) {
                ++$others[$b];
                --$others[$a];
            }
        }
        $out = [];
        $only = $onlyOther = 0;
        foreach (array_keys($xs) as $k) {
            $only += $own[$k];
            $onlyOther += $others[$k];
            $difference = ($only - $onlyOther) / max(1, $this->of);
            $error = sqrt(max(0.0, $only + $onlyOther - ($only - $onlyOther) ** 2 / max(1, $this->of))) / max(1, $this->of);
            $out[] = new Interval($difference, $difference - $z * $error, $difference + $z * $error);
        }

        return $out;
    }

    /** @param list<float> $xs rising; the place of the first that is not below */
    private static function first(array $xs, float $place): int
    {
        [$low, $high] = [0, \count($xs)];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($xs[$middle] < $place) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }
}
