<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Task\Answers;

/**
 * Brings the chances of a model that was fitted with classes made to count the same back to how often they occur, as seen on rows it had not
 * learned from: log-odds are shifted, and stretched where there are events enough to tell. Definition: docs/methods/imbalance.md.
 */
final readonly class BroughtBack
{
    /** From so many events on a slope is fitted too. */
    private const SLOPE_FROM = 100;
    private const STEPS = 60;
    private const LEAST = 1e-12;

    /**
     * @param list<float> $shifts of each class but the first; of two classes one
     * @param float       $slope  of two classes
     */
    private function __construct(public array $shifts, public float $slope)
    {
    }

    /**
     * @param list<float>  $outcome the place of each row's class
     * @param Answers      $answers of rows that were not learned from
     * @param ?list<float> $weights
     *
     * @return ?self null when no row has an answer or only one class occurs
     */
    public static function fit(array $outcome, Answers $answers, ?array $weights = null): ?self
    {
        $y = $p = $w = [];
        foreach ($outcome as $i => $class) {
            if ($answers->isKnown($i) && (null === $weights || $weights[$i] > 0.0)) {
                $y[] = (int) $class;
                $p[] = $answers->of($i);
                $w[] = $weights[$i] ?? 1.0;
            }
        }
        if (\count(array_unique($y)) < 2) {
            return null;
        }

        return 1 === $answers->width ? self::ofTwo($y, array_column($p, 0), $w) : self::ofSeveral($y, $p, $w, $answers->width);
    }

    /**
     * Maximum likelihood of the intercept, and of the slope from a hundred events on (Platt 1999 without his targets).
     *
     * @param list<int>   $y
     * @param list<float> $p
     * @param list<float> $w
     */
    private static function ofTwo(array $y, array $p, array $w): self
    {
        $x = array_map(self::logit(...), $p);
        $events = array_sum($y);
        $sloped = min($events, \count($y) - $events) >= self::SLOPE_FROM;
        [$a, $b] = [0.0, 1.0];
        for ($step = 0; $step < self::STEPS; ++$step) {
            $ga = $gb = $haa = $hab = $hbb = 0.0;
            foreach ($x as $i => $v) {
                $q = 1 / (1 + exp(-max(-30.0, min(30.0, $a + $b * $v))));
                $r = $w[$i] * ($y[$i] - $q);
                $h = $w[$i] * max(1e-9, $q * (1 - $q));
                $ga += $r;
                $gb += $r * $v;
                $haa += $h;
                $hab += $h * $v;
                $hbb += $h * $v * $v;
            }
            $det = $haa * $hbb - $hab * $hab;
            if (!$sloped || $det <= 1e-9 * $haa * $hbb) {
                $da = $ga / $haa;
                $db = 0.0;
            } else {
                $da = ($hbb * $ga - $hab * $gb) / $det;
                $db = ($haa * $gb - $hab * $ga) / $det;
            }
            // Short steps: far out the curve is nearly flat.
            $short = min(1.0, 2.0 / max(1e-12, abs($da) + abs($db)));
            $a += $short * $da;
            $b += $short * $db;
            if (abs($da) + abs($db) < 1e-10) {
                break;
            }
        }

        // A ranking that would be turned around is no ranking to stretch.
        return $b > 0.0 ? new self([$a], $b) : self::shiftAlone($x, $y, $w);
    }

    /**
     * @param list<float> $x
     * @param list<int>   $y
     * @param list<float> $w
     */
    private static function shiftAlone(array $x, array $y, array $w): self
    {
        $wanted = 0.0;
        foreach ($y as $i => $class) {
            $wanted += $w[$i] * $class;
        }

        return new self([self::shift($x, $w, $wanted)], 1.0);
    }

    /**
     * The shift of the log-odds at which the chances add up to as many.
     *
     * @param list<float> $x
     * @param list<float> $w
     */
    private static function shift(array $x, array $w, float $wanted): float
    {
        [$low, $high] = [-40.0, 40.0];
        for ($step = 0; $step < 100; ++$step) {
            $a = 0.5 * ($low + $high);
            $sum = 0.0;
            foreach ($x as $i => $v) {
                $sum += $w[$i] / (1 + exp(-max(-60.0, min(60.0, $a + $v))));
            }
            if ($sum < $wanted) {
                $low = $a;
            } else {
                $high = $a;
            }
        }

        return 0.5 * ($low + $high);
    }

    /**
     * The same for the model that was fitted to all of these rows, which lies a little higher or lower than those fitted to parts of them: its
     * shift is the one at which its chances on the rows without the event, and the out-of-fold chances of the events, add up to the events
     * that there are. A flexible model knows the rows that it learned from, so that its chances there are too low by a factor that the
     * models of the parts tell: their chances on rows kept from them, by those on rows they learned from. Of several classes the shifts stay.
     *
     * @param list<float>  $outcome as fit() takes them
     * @param Answers      $answers out of fold, as fit() takes them
     * @param Answers      $own     the model's own answers on the same rows
     * @param list<float>  $known   answers of the models of the parts on rows without the event that they learned from
     * @param ?list<float> $weights
     */
    public function anchored(array $outcome, Answers $answers, Answers $own, array $known, ?array $weights = null): self
    {
        if (1 !== $answers->width) {
            return $this;
        }
        $x = $w = [];
        $wanted = $new = $of = 0.0;
        foreach ($this->of($answers)->values as $i => $p) {
            $weight = $weights[$i] ?? 1.0;
            if (is_nan($p) || is_nan($own->values[$i]) || $weight <= 0.0) {
                continue;
            }
            if ($outcome[$i] > 0.5) {
                $wanted += $weight * (1.0 - $p);
            } else {
                $x[] = $this->slope * self::logit($own->values[$i]);
                $w[] = $weight;
                $new += $weight * $p;
                $of += $weight;
            }
        }
        $seen = array_filter($this->of(new Answers($known))->values, static fn (float $p): bool => !is_nan($p));
        $mean = [] === $seen ? 0.0 : array_sum($seen) / \count($seen);
        $factor = $new > 0.0 && $mean > 0.0 ? $new / $of / $mean : 1.0;

        return [] === $x ? $this : new self([self::shift($x, $w, $wanted / $factor)], $this->slope);
    }

    /**
     * @param list<int>         $y
     * @param list<list<float>> $p
     * @param list<float>       $w
     */
    private static function ofSeveral(array $y, array $p, array $w, int $width): self
    {
        $wanted = array_fill(0, $width, 0.0);
        foreach ($y as $i => $class) {
            $wanted[$class] += $w[$i];
        }
        $shifts = array_fill(0, $width, 0.0);
        for ($step = 0; $step < self::STEPS; ++$step) {
            $sums = array_fill(0, $width, 0.0);
            foreach ($p as $i => $own) {
                foreach (self::moved($own, array_values($shifts)) as $k => $q) {
                    $sums[$k] += $w[$i] * $q;
                }
            }
            foreach ($wanted as $k => $share) {
                if ($share > 0.0) {
                    $shifts[$k] += log($share / max(self::LEAST, $sums[$k]));
                }
            }
        }

        return new self(array_map(static fn (float $s): float => $s - $shifts[0], \array_slice($shifts, 1)), 1.0);
    }

    /**
     * @param list<float> $own    chances of all classes
     * @param list<float> $shifts one per class
     *
     * @return list<float>
     */
    private static function moved(array $own, array $shifts): array
    {
        $raised = array_map(static fn (float $q, float $s): float => max(self::LEAST, $q) * exp(max(-40.0, min(40.0, $s))), $own, $shifts);
        $all = array_sum($raised);

        return array_map(static fn (float $q): float => $q / $all, $raised);
    }

    private static function logit(float $p): float
    {
        $p = max(self::LEAST, min(1 - self::LEAST, $p));

        return log($p / (1 - $p));
    }

    /**
     * The same, written out.
     *
     * @param non-empty-list<Expression> $chances of the event, or one per class
     *
     * @return non-empty-list<Expression>
     */
    public function expressions(array $chances): array
    {
        $held = static fn (Expression $p): Operation => Operation::of(Operator::Most, $p, new Constant(self::LEAST));
        if (1 === \count($chances)) {
            $p = Operation::of(Operator::Least, $held($chances[0]), new Constant(1 - self::LEAST));
            $odds = Operation::of(Operator::Log, Operation::of(Operator::Over, $p, Operation::of(Operator::Less, new Constant(1.0), $p)));

            return [Operation::chance(Operation::sum([
                new Constant($this->shifts[0]),
                Operation::of(Operator::Times, new Constant($this->slope), $odds),
            ]))];
        }
        $raised = array_map(
            static fn (Expression $p, float $s): Operation => Operation::of(
                Operator::Times,
                $held($p),
                new Constant(exp(max(-40.0, min(40.0, $s)))),
            ),
            $chances,
            [0.0, ...$this->shifts],
        );

        return array_map(static fn (Operation $r): Operation => Operation::of(Operator::Over, $r, Operation::sum($raised)), $raised);
    }

    public function of(Answers $answers): Answers
    {
        if (1 === $answers->width) {
            return new Answers(array_map(fn (float $p): float => is_nan($p) ? \NAN : 1 / (1 + exp(-($this->shifts[0] + $this->slope * self::logit($p)))), $answers->values));
        }
        $out = [];
        foreach (array_chunk($answers->values, max(1, $answers->width)) as $own) {
            array_push($out, ...(is_nan($own[0]) ? $own : self::moved($own, [0.0, ...$this->shifts])));
        }

        return new Answers($out, $answers->width);
    }

    /** @return array{shifts: list<float>, slope: float} */
    public function toArray(): array
    {
        return ['shifts' => $this->shifts, 'slope' => $this->slope];
    }

    /** @param array{shifts: list<float|int>, slope: float|int} $data */
    public static function fromArray(array $data): self
    {
        return new self(array_map(floatval(...), $data['shifts']), (float) $data['slope']);
    }
}
