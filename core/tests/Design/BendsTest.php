<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Design;

use Dokimos\Core\Design\Bends;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Numbers that bend: restricted cubic splines, held against the same basis laid down by hand. */
final class BendsTest extends TestCase
{
    /** @return array{list<float>, list<float>, list<float>} a number, one that follows its bend, and an event */
    private static function drawn(int $rows = 400): array
    {
        $random = new Randomizer(new Mt19937(21));
        $x = $y = $event = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = $v = $random->getInt(0, 1000) / 100;
            $pull = sin($v / 2) * 3;
            $y[] = 5 + $pull + $random->getInt(-100, 100) / 100;
            $event[] = (float) ($random->getInt(1, 999) / 1000 < 1 / (1 + exp(-$pull)));
        }

        return [$x, $y, $event];
    }

    public function testItIsStraightBeyondTheOuterKnotsAndSmoothBetween(): void
    {
        $bends = Bends::at([1.0, 2.0, 4.0, 8.0]);
        self::assertSame(2, $bends->more());
        foreach ([1, 2] as $j) {
            self::assertSame(0.0, $bends->of($j, 0.5), 'nothing before the first knot');
            foreach ([[8.0, 9.0, 10.0], [20.0, 25.0, 30.0]] as [$a, $b, $c]) {
                self::assertEqualsWithDelta(
                    $bends->of($j, $b),
                    ($bends->of($j, $a) + $bends->of($j, $c)) / 2,
                    1e-9,
                    'straight after the last',
                );
            }
            $h = 1e-4;
            foreach ([1.0, 2.0, 4.0, 8.0] as $knot) {
                $slope = static fn (float $at): float => ($bends->of($j, $at + $h) - $bends->of($j, $at - $h)) / (2 * $h);
                self::assertEqualsWithDelta($slope($knot - 2 * $h), $slope($knot + 2 * $h), 1e-2, 'no corner at a knot');
            }
        }
    }

    /** The basis as Harrell (2015) writes it, by its own loop, given to the plain regression as columns. */
    public function testARegressionThatBendsIsThatOnItsBasis(): void
    {
        [$x, $y] = self::drawn();
        $bent = (new LinearRegression(['bent' => 'x', 'knots' => 5]))->fit(new Task(
            Table::of(['x' => new NumberColumn($x)]),
            ['x'],
            $y,
            range(0, 399),
            null,
            null,
        ));
        $sorted = $x;
        sort($sorted);
        $knots = array_map(static function (float $share) use ($sorted): float {
            $at = $share * 399;
            $low = (int) $at;

            return $sorted[$low] + ($at - $low) * ($sorted[min(399, $low + 1)] - $sorted[$low]);
        }, [0.05, 0.275, 0.5, 0.725, 0.95]);
        $columns = ['x' => new NumberColumn($x)];
        foreach ([0, 1, 2] as $j) {
            $columns["s$j"] = new NumberColumn(array_map(static function (float $v) use ($knots, $j): float {
                $cube = static fn (float $d): float => max(0.0, $d) ** 3;
                [$t4, $t5] = [$knots[3], $knots[4]];

                $rest = (($t5 - $knots[$j]) * $cube($v - $t4) - ($t4 - $knots[$j]) * $cube($v - $t5)) / ($t5 - $t4);

                return ($cube($v - $knots[$j]) - $rest) / ($t5 - $knots[0]) ** 2;
            }, $x));
        }
        $plain = (new LinearRegression())->fit(new Task(Table::of($columns), array_keys($columns), $y, range(0, 399), null, null));
        foreach ($plain->predict(Table::of($columns)) as $row => $p) {
            self::assertEqualsWithDelta($p, $bent->predict(Table::of(['x' => new NumberColumn($x)]))[$row], 1e-8);
        }
        foreach ($plain->estimates as $k => $b) {
            self::assertEqualsWithDelta($b, $bent->estimates[$k], 1e-7 * (1 + abs($b)));
        }
    }

    public function testACurveIsFollowedReadBackAndShown(): void
    {
        [$x, $y, $event] = self::drawn();
        $table = Table::of(['x' => new NumberColumn($x)]);
        foreach ([
            [LinearRegression::class, $y, null],
            [LogisticRegression::class, $event, ['no', 'yes']],
        ] as [$learner, $outcome, $classes]) {
            $task = new Task($table, ['x'], $outcome, range(0, 399), null, $classes);
            $loss = static fn (array $p): float => array_sum(array_map(
                static fn (float $a, float $b): float => ($a - $b) ** 2,
                $p,
                $outcome,
            ));
            $bent = (new $learner(['bent' => 'all']))->fit($task);
            self::assertLessThan(0.85 * $loss((new $learner())->fit($task)->predict($table)), $loss($bent->predict($table)));
            /** @var array<string, mixed> $kept */
            $kept = json_decode(json_encode($bent->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
            self::assertSame($bent->predict($table), Learners::read($kept)->predict($table));
            $shown = $bent->bends();
            self::assertSame(['x'], array_column($shown, 'column'));
            self::assertSame([4, 61, 61], [\count($shown[0]->knots), \count($shown[0]->at), \count($shown[0]->adds)]);
            $first = $shown[0];
            $ends = $bent->predict(Table::of(['x' => new NumberColumn([$first->at[10], $first->at[50]])]));
            $between = null === $classes ? $ends[1] - $ends[0] : log($ends[1] / (1 - $ends[1])) - log($ends[0] / (1 - $ends[0]));
            self::assertEqualsWithDelta($between, $first->adds[50] - $first->adds[10], 1e-9);
            self::assertCount(61, $first->half);
            // By hand: the errors of weighted least squares at the fitted chances, or with the error of the residuals.
            $chances = $bent->predict($table);
            $weights = null === $classes ? array_fill(0, 400, 1.0) : array_map(static fn (float $p): float => $p * (1 - $p), $chances);
            $scale = null === $classes ? $loss($chances) / (400 - 4) : 1.0;
            foreach ([0, 17, 60] as $k) {
                $error = self::errorByHand($x, $weights, Bends::at($first->knots), $first->at[$k], $first->knots[2]);
                self::assertEqualsWithDelta(1.959963984540054 * sqrt($scale * $error), $first->half[$k], 1e-5 * (1 + $first->half[$k]));
            }
        }
    }

    /**
     * dᵀ (Xᵀ W X)⁻¹ d of the difference between two values, solved by elimination.
     *
     * @param list<float> $x
     * @param list<float> $weights
     */
    private static function errorByHand(array $x, array $weights, Bends $bends, float $at, float $from): float
    {
        $terms = static fn (float $v): array => [1.0, $v, $bends->of(1, $v), $bends->of(2, $v)];
        $d = array_map(static fn (float $a, float $b): float => $a - $b, $terms($at), $terms($from));
        $rows = array_map(static fn (float $v): array => [0.0, 0.0, 0.0, 0.0, $v], $d);
        foreach ($x as $i => $v) {
            $own = $terms($v);
            for ($a = 0; $a < 4; ++$a) {
                for ($b = 0; $b < 4; ++$b) {
                    $rows[$a][$b] += $weights[$i] * $own[$a] * $own[$b];
                }
            }
        }
        for ($a = 0; $a < 4; ++$a) {
            for ($b = 0; $b < 4; ++$b) {
                $times = $a === $b ? 0.0 : $rows[$b][$a] / $rows[$a][$a];
                for ($c = $a; $c < 5; ++$c) {
                    $rows[$b][$c] -= $times * $rows[$a][$c];
                }
            }
        }

        return array_sum(array_map(static fn (int $a): float => $d[$a] * $rows[$a][4] / $rows[$a][$a], range(0, 3)));
    }

    public function testMissingValuesAndFewDifferentOnes(): void
    {
        [$x, $y] = self::drawn();
        $x = array_values(array_replace($x, [3 => \NAN]));
        $table = Table::of([
            'x' => new NumberColumn($x),
            'two' => new NumberColumn(array_map(static fn (int $i): float => (float) ($i % 2), range(0, 399))),
        ]);
        $fit = static fn (array $more): array => (new LinearRegression(['bent' => 'all'] + $more))->fit(new Task(
            $table,
            ['x', 'two'],
            $y,
            range(0, 399),
            null,
            null,
        ))->predict($table);
        self::assertNan($fit([])[3]);
        self::assertTrue(is_finite($fit(['missing' => 'fill and mark'])[3]));
        self::assertNull(Bends::learn([0.0, 1.0, 0.0, 1.0], 5), 'of two values there is no curve');
        self::assertNull(Bends::learn([\NAN, \INF], 3));
    }

    public function testOnlyNumbersBend(): void
    {
        [, $y] = self::drawn();
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('There is no number "g" among the inputs that could bend.');
        (new LinearRegression(['bent' => 'g']))->fit(new Task(
            Table::of(['g' => CodedColumn::fromCells(array_map(static fn (int $i): string => 'v'.$i % 3, range(0, 399)))]),
            ['g'],
            $y,
            range(0, 399),
            null,
            null,
        ));
    }
}
