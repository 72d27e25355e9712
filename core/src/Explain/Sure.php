<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/**
 * How sure a single answer is, from answers for records that the models had not seen: of a chance the share of events among the records of
 * most
 * similar chance, of a number intervals that hold what comes in 80 and 95 of 100 records, of several classes the set that holds it in 90 of
 * 100.
 * Definition: docs/methods/how-sure.md.
 */
final class Sure
{
    /** Records of similar chance. */
    private const ALIKE = 200;
    /** Share of the records, nearest by what is predicted, whose errors tell how far answers stray there. */
    private const NEAR = 0.1;
    public const OF_SETS = 90;

    /** @var list<float> ascending: chances, or numbers predicted */
    private array $said = [];
    /** @var list<float> outcomes in that order */
    private array $came = [];
    /** @var list<float> of a number, sums of absolute errors up to each */
    private array $sums = [0.0];
    /** @var array<int, ?float> of a number by level: quantile of the errors, plain or by spread */
    private array $plain = [];
    /** @var array<int, ?float> */
    private array $scaled = [];
    private bool $spreads = false;
    private ?float $quantile = null;

    /**
     * @param list<float>   $outcome of records that the models had not seen
     * @param Answers       $answers for them; NAN = none
     * @param ?list<string> $classes null for a number
     */
    public function __construct(private readonly string $task, array $outcome, Answers $answers, private readonly ?array $classes)
    {
        $rows = array_values(array_filter(
            array_keys($outcome),
            static fn (int $i): bool => $answers->isKnown($i) && !is_nan($outcome[$i]),
        ));
        if (Task::MORE === $task) {
            $scores = [];
            foreach ($rows as $i) {
                $own = array_combine($classes ?? [], $answers->of($i));
                $scores[] = Conformal::scores($own, Conformal::LEAST_AMBIGUOUS)[($classes ?? [])[(int) $outcome[$i]]];
            }
            $this->quantile = Conformal::quantile($scores, self::OF_SETS);

            return;
        }
        usort($rows, static fn (int $a, int $b): int => $answers->first($a) <=> $answers->first($b));
        $this->said = array_map(static fn (int $i): float => $answers->first($i), $rows);
        $this->came = array_map(static fn (int $i): float => $outcome[$i], $rows);
        if (Task::NUMBER === $task) {
            $this->learnErrors();
        }
    }

    /**
     * Read back from code that var_export() wrote: nothing is learned again.
     *
     * @param array<string, mixed> $state
     */
    public static function __set_state(array $state): self
    {
        /**
         * @var array{
         *     task: string, classes: ?list<string>, said: list<float>, came: list<float>, sums: list<float>,
         *     plain: array<int, ?float>, scaled: array<int, ?float>, spreads: bool, quantile: ?float,
         * } $state
         */
        $sure = new self($state['task'], [], new Answers([]), $state['classes']);
        [$sure->said, $sure->came, $sure->sums] = [$state['said'], $state['came'], $state['sums']];
        [$sure->plain, $sure->scaled, $sure->spreads, $sure->quantile] = [
            $state['plain'],
            $state['scaled'],
            $state['spreads'],
            $state['quantile'],
        ];

        return $sure;
    }

    private function learnErrors(): void
    {
        $errors = array_map(static fn (float $y, float $s): float => abs($y - $s), $this->came, $this->said);
        foreach ($errors as $k => $e) {
            $this->sums[] = $this->sums[$k] + $e;
        }
        $scaled = $spreads = [];
        foreach ($errors as $k => $e) {
            // Without itself, as of a new record.
            $spreads[] = $spread = $this->spreadAt($this->said[$k], $k);
            $scaled[] = $spread > 0.0 ? $e / $spread : ($e > 0.0 ? \INF : 0.0);
        }
        foreach ([80, 95] as $level) {
            $this->plain[$level] = Conformal::quantile($errors, $level);
            $this->scaled[$level] = Conformal::quantile($scaled, $level);
        }
        $mean = [] === $spreads ? 0.0 : array_sum($spreads) / \count($spreads);
        // By spread only where that makes intervals narrower on average.
        [$plain, $scaled] = [$this->plain[95], $this->scaled[95]];
        $this->spreads = null !== $scaled && null !== $plain && is_finite($scaled) && $scaled * $mean < $plain;
    }

    /** Mean absolute error among the records whose predictions are nearest. */
    private function spreadAt(float $said, ?int $without): float
    {
        $n = \count($this->said);
        $near = max(20, (int) round(self::NEAR * $n));
        $place = $without ?? self::place($this->said, $said);
        $from = max(0, min($place - intdiv($near, 2), $n - $near));
        $to = min($n, $from + $near);
        $sum = ($this->sums[$to] ?? 0.0) - ($this->sums[$from] ?? 0.0);
        $count = $to - $from;
        if (null !== $without && $without >= $from && $without < $to) {
            $sum -= $this->sums[$without + 1] - $this->sums[$without];
            --$count;
        }

        return max(0.0, $sum) / max(1, $count);
    }

    /** How widely answers stray near this prediction, as a multiple of how they do in the middle. */
    public function spreadBeside(float $said): float
    {
        $n = \count($this->said);
        $middle = 0 === $n ? 0.0 : $this->spreadAt($this->said[intdiv($n, 2)], null);

        return $middle > 0.0 ? $this->spreadAt($said, null) / $middle : 1.0;
    }

    /**
     * The chance that a number comes above a limit: how often the prediction with the errors of the records of nearest prediction does.
     *
     * @return ?float null where nothing was predicted before
     */
    public function above(float $said, float $limit): ?float
    {
        $n = \count($this->said);
        if (0 === $n) {
            return null;
        }
        $near = min($n, max(50, (int) round(self::NEAR * $n)));
        $from = max(0, min(self::place($this->said, $said) - intdiv($near, 2), $n - $near));
        $above = 0;
        for ($k = $from; $k < $from + $near; ++$k) {
            $above += $said + $this->came[$k] - $this->said[$k] > $limit ? 1 : 0;
        }

        return $above / $near;
    }

    /** @param list<float> $sorted how many lie below */
    private static function place(array $sorted, float $value): int
    {
        [$low, $high] = [0, \count($sorted)];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($sorted[$middle] < $value) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }

    /**
     * The share of events among the 200 records of most similar chance, with Wilson's interval.
     *
     * @return ?array{interval: Interval, records: int, from: float, to: float} null for other tasks, and with no records
     */
    public function ofChance(float $chance): ?array
    {
        $n = \count($this->said);
        if (Task::TWO !== $this->task || 0 === $n) {
            return null;
        }
        $from = $to = self::place($this->said, $chance);
        while ($to - $from < min(self::ALIKE, $n)) {
            if ($from > 0 && ($to >= $n || $chance - $this->said[$from - 1] <= $this->said[$to] - $chance)) {
                --$from;
            } else {
                ++$to;
            }
        }
        $events = 0.0;
        for ($i = $from; $i < $to; ++$i) {
            $events += $this->came[$i] > 0.5 ? 1.0 : 0.0;
        }

        return [
            'interval' => Interval::wilson($events, $to - $from),
            'records' => $to - $from,
            'from' => $this->said[$from],
            'to' => $this->said[$to - 1],
        ];
    }

    /** @return ?array{float, float} low and high that hold what comes in so many of 100 records; null with too few records */
    public function ofNumber(float $said, int $level): ?array
    {
        $quantile = $this->spreads ? $this->scaled[$level] ?? null : $this->plain[$level] ?? null;
        if (null === $quantile || !is_finite($quantile)) {
            return null;
        }
        $reach = $quantile * ($this->spreads ? $this->spreadAt($said, null) : 1.0);

        return [$said - $reach, $said + $reach];
    }

    /**
     * @param list<float> $chances of the classes
     *
     * @return list<string> never empty
     */
    public function ofClasses(array $chances): array
    {
        return Conformal::filled(array_combine($this->classes ?? [], $chances), $this->quantile, Conformal::LEAST_AMBIGUOUS);
    }
}
