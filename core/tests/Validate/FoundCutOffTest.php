<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Measure\Confusion;
use Dokimos\Core\Random;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Validate\FoundCutOff;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class FoundCutOffTest extends TestCase
{
    /** @return array{list<float>, list<float>, list<list<int>>} chances that hold, outcomes, five folds */
    private static function drawn(int $rows, int $seed): array
    {
        $random = Random::stream($seed, 'cut-off');
        $chances = $outcome = [];
        $parts = [[], [], [], [], []];
        for ($i = 0; $i < $rows; ++$i) {
            $chances[] = ($random->getInt(0, 9999) / 10000) ** 2;
            $outcome[] = $random->getInt(0, 9999) / 10000 < $chances[$i] ? 1.0 : 0.0;
            $parts[$i % 5][] = $i;
        }

        return [$chances, $outcome, $parts];
    }

    /** @return iterable<string, array{string}> */
    public static function figures(): iterable
    {
        foreach (FoundCutOff::BY as $by) {
            yield $by => [$by];
        }
    }

    /** Looked for once more, every cut-off by itself. */
    #[DataProvider('figures')]
    public function testNoOtherCutOffDoesBetterAndEachFoldIsJudgedByTheOthers(string $by): void
    {
        [$chances, $outcome, $parts] = self::drawn(400, 5);
        $found = FoundCutOff::of($chances, $outcome, $parts, $by, 4.0, 1.0);
        self::assertNotNull($found);
        $sign = FoundCutOff::COSTS === $by ? -1 : 1;
        $at = static function (float $cutoff, array $rows) use ($chances, $outcome): array {
            $n = ['tp' => 0.0, 'fp' => 0.0, 'fn' => 0.0, 'tn' => 0.0];
            foreach ($rows as $i) {
                ++$n[CutOff::at($cutoff)->calls($chances[$i]) ? ($outcome[$i] > 0.5 ? 'tp' : 'fp') : ($outcome[$i] > 0.5 ? 'fn' : 'tn')];
            }

            return $n;
        };
        $worth = static fn (array $n): float => FoundCutOff::COSTS === $by
            ? 100 * (4 * $n['fn'] + $n['fp']) / array_sum($n)
            : (float) (new Confusion(0, $n['tp'], $n['fp'], $n['fn'], $n['tn']))->toArray()[$by];
        $bestOf = static function (array $rows) use ($chances, $at, $worth, $sign): float {
            $best = [-\INF, 1.0];
            foreach (array_unique(array_map(static fn (float $c): float => CutOff::reaching($c)->value, $chances)) as $c) {
                $best = max($best, [$sign * $worth($at($c, $rows)), $c]);
            }

            return $best[1];
        };
        $all = array_keys($chances);
        self::assertSame($bestOf($all), $found->cutoff->value);
        self::assertEqualsWithDelta($worth($at($found->cutoff->value, $all)), $found->seen, 1e-9);
        $sums = ['tp' => 0.0, 'fp' => 0.0, 'fn' => 0.0, 'tn' => 0.0];
        $cuts = [];
        foreach ($parts as $rows) {
            $cuts[] = $own = $bestOf(array_values(array_diff($all, $rows)));
            foreach ($at($own, $rows) as $cell => $n) {
                $sums[$cell] += $n;
            }
        }
        self::assertEqualsWithDelta($worth($sums), $found->expected->value, 1e-9);
        self::assertNotSame([], $cuts);
        self::assertSame([min($cuts), max($cuts)], [$found->from, $found->to]);
        self::assertGreaterThanOrEqual(
            $sign * (float) $found->expected->value,
            $sign * $found->seen + 1e-9,
            'what was chosen looks no worse where it was chosen',
        );
    }

    /** With chances that hold, whoever misses at four times the cost of a call in vain calls from a fifth on: the known best. */
    public function testCostsFindWhatTheoryKnows(): void
    {
        [$chances, $outcome, $parts] = self::drawn(30000, 8);
        $found = FoundCutOff::of($chances, $outcome, $parts, FoundCutOff::COSTS, 4.0, 1.0);
        self::assertNotNull($found);
        self::assertEqualsWithDelta(0.2, $found->cutoff->value, 0.05);
    }

    /** The interval of accuracy is that of a share. */
    public function testTheIntervalOfAShareIsThatOfAShare(): void
    {
        [$chances, $outcome, $parts] = self::drawn(1000, 2);
        $found = FoundCutOff::of($chances, $outcome, $parts, 'accuracy');
        $p = (float) $found?->expected->value;
        self::assertEqualsWithDelta(2 * 1.959964 * sqrt($p * (1 - $p) / 1000), $found?->expected->high - $found?->expected->low, 1e-5);
    }

    public function testWhereThereIsNothingToFind(): void
    {
        self::assertNull(FoundCutOff::of([0.1, 0.2, 0.3, 0.4], [0, 0, 0, 1], [[0, 1], [2, 3]], 'f1'), 'no event among the others');
        self::assertNull(FoundCutOff::of([\NAN, \NAN], [0, 1], [[0], [1]], 'f1'));
        $one = FoundCutOff::of([0.1, 0.9], [0, 1], [[0, 1]], 'f1');
        self::assertSame([0.9, 1.0, null], [$one?->cutoff->value, $one?->seen, $one?->expected->value], 'one part: nothing is held back');
    }
}
