<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Decide;

use Dokimos\Core\Decide\BroughtBack;
use Dokimos\Core\Task\Answers;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Chances are moved until they add up to what occurs: on rows held out, and for the model that was fitted to all of them. */
final class BroughtBackTest extends TestCase
{
    /** @return array{list<float>, list<float>, list<float>} outcomes, answers out of fold and own answers that know the outcome a little */
    private static function drawn(int $rows, float $memory): array
    {
        mt_srand(5);
        $y = $held = $own = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x = mt_rand(-2000, 2000) / 1000;
            $y[] = mt_rand() / mt_getrandmax() < 1 / (1 + exp(4 - $x)) ? 1.0 : 0.0;
            // As a model that was made to think both as frequent would say.
            $held[] = 1 / (1 + exp(-$x - mt_rand(-300, 300) / 1000));
            $own[] = 1 / (1 + exp(-$x - 0.4 - $memory * (2 * $y[$i] - 1)));
        }

        return [$y, $held, $own];
    }

    public function testChancesAddUpToTheEvents(): void
    {
        foreach ([400, 4000] as $rows) {
            [$y, $held] = self::drawn($rows, 0.0);
            $weights = array_map(static fn (int $i): float => (float) ($i % 4), range(0, $rows - 1));
            foreach ([null, $weights] as $w) {
                $back = BroughtBack::fit($y, new Answers($held), $w);
                self::assertNotNull($back);
                $sum = static fn (array $v): float => array_sum(array_map(
                    static fn (float $a, int $i): float => $a * ($w[$i] ?? 1.0),
                    $v,
                    array_keys($v),
                ));
                self::assertEqualsWithDelta($sum($y), $sum($back->of(new Answers($held))->values), 1e-6 * $rows);
                $counted = array_filter(
                    $y,
                    static fn (float $v, int $i): bool => $v > 0.5 && ($w[$i] ?? 1.0) > 0.0,
                    \ARRAY_FILTER_USE_BOTH,
                );
                self::assertSame(\count($counted) >= 100, 1.0 !== $back->slope, 'a slope only from a hundred events on');
            }
        }
    }

    /** @return iterable<string, array{float}> */
    public static function memories(): iterable
    {
        yield 'a model that knows no row' => [0.0];
        yield 'one that knows its rows' => [0.7];
    }

    #[DataProvider('memories')]
    public function testTheWholeModelIsRightOnNewRows(float $memory): void
    {
        [$y, $held, $own] = self::drawn(6000, $memory);
        $back = BroughtBack::fit($y, new Answers($held));
        self::assertNotNull($back);
        // Models of the parts know the rows they learned from as well as this one knows its own.
        $known = array_values(array_filter(
            array_map(static fn (float $y, float $p): ?float => $y > 0.5 ? null : 1 / (1 + exp(-log($p / (1 - $p)) + $memory)), $y, $held),
            static fn (?float $p): bool => null !== $p,
        ));
        $whole = $back->anchored($y, new Answers($held), new Answers($own), $known);
        self::assertSame($back->slope, $whole->slope);
        // A new row: the model lies 0.4 higher than those of the parts, and knows nothing of its outcome.
        $new = array_map(static fn (float $p): float => 1 / (1 + exp(-log($p / (1 - $p)) - 0.4)), $held);
        self::assertEqualsWithDelta(array_sum($y), array_sum($whole->of(new Answers($new))->values), 0.03 * array_sum($y));
        self::assertGreaterThan(1.2 * array_sum($y), array_sum($back->of(new Answers($new))->values), 'otherwise nothing is shown');
    }

    public function testWhatCannotBeTold(): void
    {
        self::assertNull(BroughtBack::fit([1.0, 1.0], new Answers([0.4, 0.6])), 'one outcome only');
        self::assertNull(BroughtBack::fit([0.0, 1.0], new Answers([\NAN, 0.6])));
        $back = BroughtBack::fit([0.0, 1.0, 0.0], new Answers([0.4, 0.6, \NAN]));
        self::assertNotNull($back);
        self::assertSame($back, $back->anchored([1.0], new Answers([0.5]), new Answers([0.5]), []), 'no row without the event');
        self::assertNan($back->of(new Answers([\NAN]))->values[0]);
        $three = new Answers([0.5, 0.3, 0.2, 0.4, 0.4, 0.2, 0.3, 0.3, 0.4, 0.2, 0.2, 0.6], 3);
        $several = BroughtBack::fit([0.0, 1.0, 2.0, 2.0], $three);
        self::assertNotNull($several);
        self::assertSame($several, $several->anchored([], new Answers([], 3), new Answers([], 3), []));
        $moved = array_chunk($several->of($three)->values, 3);
        foreach ([1.0, 1.0, 2.0] as $class => $count) {
            self::assertEqualsWithDelta($count, array_sum(array_column($moved, $class)), 1e-6);
        }
        self::assertEquals($several, BroughtBack::fromArray($several->toArray()));
    }
}
