<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\Shares;

/**
 * Brings chances that are too sure back to what came: of two classes the log-odds become a + b times themselves, of several all logarithms
 * are multiplied by b (Guo et al. 2017). Learned on answers of models that had not read the rows, and only where that lowers the log loss
 * of rows which did not choose it either. Definition: docs/methods/naive-bayes.md.
 */
final readonly class Temper
{
    private const LEAST = 1e-15;
    /** Rows by which the factor of several classes is found, at most. */
    private const ENOUGH = 20_000;

    public function __construct(public float $a, public float $b)
    {
    }

    /**
     * @param list<list<float>> $logs    per class, of rows by models that had not read them
     * @param list<int>         $classes of these rows
     * @param list<float>       $weights
     * @param list<int>         $fold    of each row
     *
     * @return array{?self, float, float} null where it does not help; log loss before and after, on rows that did not choose it
     */
    public static function chosen(array $logs, array $classes, array $weights, array $fold): array
    {
        $before = self::losses($logs, $classes, null);
        $after = $before;
        foreach (array_unique($fold) as $own) {
            $in = array_keys($fold, $own, true);
            $out = array_values(array_diff(array_keys($fold), $in));
            $fitted = self::fit(self::some($logs, $out), self::of($classes, $out), self::of($weights, $out));
            if (null === $fitted) {
                return [null, \NAN, \NAN];
            }
            foreach (self::losses(self::some($logs, $in), self::of($classes, $in), $fitted) as $i => $loss) {
                $after[$in[$i]] = $loss;
            }
        }
        $was = $is = 0.0;
        $all = max(1e-300, array_sum($weights));
        foreach ($weights as $i => $w) {
            $was += $w * $before[$i] / $all;
            $is += $w * $after[$i] / $all;
        }

        return [$is < $was ? self::fit($logs, $classes, $weights) : null, $was, $is];
    }

    /**
     * @param list<list<float>> $logs
     * @param list<int>         $rows
     *
     * @return list<list<float>>
     */
    private static function some(array $logs, array $rows): array
    {
        return array_map(static fn (array $own): array => self::of($own, $rows), $logs);
    }

    /**
     * @template T
     *
     * @param list<T>   $list
     * @param list<int> $rows
     *
     * @return list<T>
     */
    private static function of(array $list, array $rows): array
    {
        return array_map(static fn (int $row) => $list[$row], $rows);
    }

    /**
     * @param list<list<float>> $logs
     * @param list<int>         $classes
     * @param list<float>       $weights
     */
    private static function fit(array $logs, array $classes, array $weights): ?self
    {
        if (2 === \count($logs)) {
            try {
                $found = Sigmoid::fit(array_map(floatval(...), $classes), self::shares($logs, null)[1] ?? [], $weights, true);
            } catch (CannotCalibrate) {
                return null;
            }

            return $found->b > 0.0 ? new self($found->a, $found->b) : null;
        }
        // One number on a range that is known, by golden section on its logarithm; of many rows an even part tells it as well.
        $n = \count($classes);
        if ($n > self::ENOUGH) {
            $some = array_map(static fn (int $i): int => intdiv($i * $n, self::ENOUGH), range(0, self::ENOUGH - 1));
            [$logs, $classes, $weights] = [self::some($logs, $some), self::of($classes, $some), self::of($weights, $some)];
        }
        $loss = static function (float $log) use ($logs, $classes, $weights): float {
            $sum = 0.0;
            foreach (self::losses($logs, $classes, new self(0.0, exp($log))) as $i => $l) {
                $sum += $weights[$i] * $l;
            }

            return $sum;
        };
        [$low, $high] = [-4.0, 1.5];
        $part = (sqrt(5) - 1) / 2;
        [$x, $y] = [$high - $part * ($high - $low), $low + $part * ($high - $low)];
        [$fx, $fy] = [$loss($x), $loss($y)];
        for ($step = 0; $step < 40; ++$step) {
            if ($fx < $fy) {
                [$high, $y, $fy] = [$y, $x, $fx];
                $x = $high - $part * ($high - $low);
                $fx = $loss($x);
            } else {
                [$low, $x, $fx] = [$x, $y, $fy];
                $y = $low + $part * ($high - $low);
                $fy = $loss($y);
            }
        }

        return new self(0.0, exp(($low + $high) / 2));
    }

    /**
     * @param list<list<float>> $logs
     * @param list<int>         $classes
     *
     * @return list<float>
     */
    private static function losses(array $logs, array $classes, ?self $temper): array
    {
        $shares = self::shares($logs, $temper);

        return array_map(static fn (int $class, int $i): float => -log($shares[$class][$i]), $classes, array_keys($classes));
    }

    /**
     * The same written out: the chance of the event, or of several classes that of each.
     *
     * @param list<Expression> $logs per class
     *
     * @return non-empty-list<Expression>
     */
    public static function expressions(array $logs, ?self $temper): array
    {
        $held = static fn (Expression $e, float $low, float $high): Expression => Operation::of(
            Operator::Most,
            Operation::of(Operator::Least, $e, new Constant($high)),
            new Constant($low),
        );
        if (2 !== \count($logs)) {
            return Shares::of(null === $temper ? $logs : array_map(
                static fn (Expression $e): Expression => Operation::of(Operator::Times, new Constant($temper->b), $e),
                $logs,
            ));
        }
        $odds = Operation::of(Operator::Less, $logs[1], $logs[0]);
        if (null !== $temper) {
            $times = Operation::of(Operator::Times, new Constant($temper->b), $held($odds, -1e6, 1e6));
            $odds = Operation::of(Operator::Add, new Constant($temper->a), $times);
        }

        return [$held(Operation::chance($odds), self::LEAST, 1.0 - self::LEAST)];
    }

    /**
     * Chances of classes that add up to 1, from logarithms that are off by the same.
     *
     * @param list<list<float>> $logs per class, one a row
     *
     * @return list<list<float>>
     */
    public static function shares(array $logs, ?self $temper): array
    {
        if (2 === \count($logs)) {
            $out = [[], []];
            foreach ($logs[0] as $i => $no) {
                $odds = $logs[1][$i] - $no;
                if (null !== $temper) {
                    $odds = $temper->a + $temper->b * max(-1e6, min(1e6, $odds));
                }
                $p = $odds >= 0.0 ? 1.0 / (1.0 + exp(-$odds)) : exp($odds) / (1.0 + exp($odds));
                $p = max(self::LEAST, min(1.0 - self::LEAST, $p));
                $out[0][] = 1.0 - $p;
                $out[1][] = $p;
            }

            return $out;
        }
        $out = array_fill(0, \count($logs), []);
        foreach ($logs[0] ?? [] as $i => $_) {
            $own = [];
            foreach ($logs as $list) {
                $own[] = ($temper->b ?? 1.0) * max(-1e300, $list[$i]);
            }
            $most = max([-\INF, ...$own]);
            $raised = array_map(static fn (float $v): float => max(self::LEAST, exp($v - $most)), $own);
            $all = array_sum($raised);
            foreach ($raised as $class => $e) {
                $out[$class][] = $e / $all;
            }
        }

        return array_values($out);
    }
}
