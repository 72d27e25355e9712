<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\Bootstrap;
use Dokimos\Core\Measure\ClassFigures;
use PHPUnit\Framework\TestCase;

/** That the intervals hold the truth is measured by make coverage; here, what must always be so. */
final class BootstrapTest extends TestCase
{
    /** @return array{list<float>, list<float>} */
    private static function made(int $rows): array
    {
        $event = $score = [];
        for ($i = 0; $i < $rows; ++$i) {
            $score[] = ($i * 37 % 101) / 101;
            $event[] = ($i * 53 % 97) / 97 < $score[$i] ? 1.0 : 0.0;
        }

        return [$event, $score];
    }

    public function testTheFigureIsTheOneOfAllRowsAndItsIntervalHoldsIt(): void
    {
        foreach ([6, 60, 600, 30_000] as $rows) {
            [$event, $score] = self::made($rows);
            $scores = new BinaryScores($event, $score);
            $drawn = $scores->drawnAgain();
            self::assertEqualsWithDelta($scores->averagePrecision(), $drawn['averagePrecision']->value, 1e-12);
            self::assertEqualsWithDelta($scores->ks()['statistic'], $drawn['ks']->value, 1e-12);
            foreach ($drawn as $i) {
                self::assertTrue(0.0 <= $i->low && $i->low <= $i->value && $i->value <= $i->high && $i->high <= 1.0, (string) $rows);
            }
            $widths[] = $drawn['averagePrecision']->high - $drawn['averagePrecision']->low;
        }
        self::assertLessThan($widths[1] / 5, $widths[3], 'more rows, narrower');
    }

    public function testTheSameRowsHaveTheSameIntervalInAnyOrder(): void
    {
        [$event, $score] = self::made(300);
        $order = array_map(static fn (int $i): int => $i * 7 % 300, range(0, 299));
        $pick = static fn (array $of): array => array_map(static fn (int $i): float => $of[$i], $order);
        self::assertEquals(
            (new BinaryScores($event, $score))->drawnAgain(),
            (new BinaryScores($pick($event), $pick($score)))->drawnAgain(),
        );
    }

    public function testScoresByThousandsAreDrawnInNeighborhoods(): void
    {
        $event = $score = [];
        for ($i = 0; $i < 40_000; ++$i) {
            $score[] = $i / 40_000;
            $event[] = ($i * 7919 % 40_000) / 40_000 < $i / 40_000 ? 1.0 : 0.0;
        }
        $scores = new BinaryScores($event, $score);
        self::assertEqualsWithDelta($scores->averagePrecision(), $scores->drawnAgain()['averagePrecision']->value, 2e-4);
        self::assertEqualsWithDelta($scores->ks()['statistic'], $scores->drawnAgain()['ks']->value, 1e-3);
    }

    public function testOneOutcomeAloneAndNoDistanceGiveNumbers(): void
    {
        foreach ([[[1.0, 1.0], [0.2, 0.4]], [[0.0, 0.0], [0.2, 0.4]], [[1.0, 0.0], [0.5, 0.5]]] as [$event, $score]) {
            foreach ((new BinaryScores($event, $score))->drawnAgain() as $i) {
                self::assertFinite((float) $i->value + (float) $i->low + (float) $i->high);
            }
        }
    }

    public function testAgreementIsThatOfTheFigures(): void
    {
        $confusion = [[30, 5, 2], [4, 20, 6], [1, 0, 3]];
        $actual = [];
        $shares = [[], [], []];
        foreach ($confusion as $came => $row) {
            foreach ($row as $said => $count) {
                for ($i = 0; $i < $count; ++$i) {
                    $actual[] = $came;
                    foreach ($shares as $k => $_) {
                        $shares[$k][] = $k === $said ? 0.8 : 0.1;
                    }
                }
            }
        }
        $figures = ClassFigures::of(['a', 'b', 'c'], $actual, $shares);
        $drawn = Bootstrap::confusion($confusion);
        self::assertEqualsWithDelta($figures['kappa'], $drawn['kappa']->value, 1e-12);
        self::assertEqualsWithDelta($figures['balanced_accuracy'], $drawn['balancedAccuracy']->value, 1e-12);
        self::assertEquals($drawn, Bootstrap::confusion($confusion));
        self::assertSame(0.0, Bootstrap::confusion([[5, 0], [0, 0]])['kappa']->value);
    }
}
