<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Design\RowCodes;
use Dokimos\Core\Learn\Boosting\RowOrder;
use Dokimos\Core\Learn\Tree\Cells;
use Dokimos\Core\Learn\Tree\Criterion;
use Dokimos\Core\Learn\Tree\Division;
use Dokimos\Core\Learn\Tree\Grove;
use Dokimos\Core\Learn\Tree\Grower;
use Dokimos\Core\Learn\Tree\Limits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** The quick ways of growing and asking trees against the plain ones. */
final class SameTreeTest extends TestCase
{
    /**
     * @return iterable<string, array{int, int, int, float, bool, 5?: int}> rows, largest code, leaf, share missing, whether rows repeat,
     *                                                                      codes that most rows have
     */
    public static function shapes(): iterable
    {
        yield 'few rows, so put in order' => [31, 9, 1, 0.0, false];
        yield 'one more, so counted' => [32, 9, 1, 0.0, false];
        yield 'few rows with missing values' => [60, 200, 1, 0.2, false];
        yield 'few rows that repeat' => [90, 40, 2, 0.0, true];
        yield 'many rows, few codes' => [900, 4, 3, 0.1, false];
        yield 'many rows, many codes' => [900, 255, 1, 0.1, true];
        yield 'more codes than a byte' => [700, 3000, 2, 0.0, false];
        yield 'very many codes' => [400, 90_000, 1, 0.3, true];
        yield 'very many codes, most rows at a few' => [600, 90_000, 1, 0.1, false, 9];
        yield 'very many codes, most rows close together' => [600, 1_500_000, 2, 0.0, true, 400];
        yield 'nothing but missing values at times' => [300, 90_000, 1, 0.97, false];
    }

    /** Packed into whole numbers, in histograms or as bits, or added up as floats: the same divisions. */
    #[DataProvider('shapes')]
    public function testPackedOrNot(int $rows, int $size, int $leaf, float $missing, bool $repeats, int $near = 0): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(7));
        $codes = $y = $times = [];
        for ($i = 0; $i < $rows; ++$i) {
            $times[] = $repeats ? $random->getInt(0, 3) : 1;
            $y[] = $random->getInt(0, 1);
        }
        for ($f = 0; $f < 6; ++$f) {
            $column = [];
            for ($i = 0; $i < $rows; ++$i) {
                $top = 5 === $f ? 5 : ($near > 0 && $random->getInt(1, 20) > 1 ? $near : $size);
                $column[] = $random->getInt(0, 999) < 1000 * $missing ? 0 : max(
                    1,
                    min($top, $random->getInt(1, $top) + ($f < 2 ? intdiv($top * $y[$i], 3) : 0)),
                );
            }
            $codes[] = $column;
        }
        $sizes = [$size, $size, $size, $size, $size, 5];
        $levels = [null, null, null, null, null, [0, 1, 2, 3, 4]];
        $own = array_keys(array_filter($times));
        $weights = array_map(floatval(...), $times);
        $grow = static fn (Cells $cells, Criterion $criterion, int $leaf, bool $fine = false): array => array_map(
            // Where nothing is missing, where it would go is told by rows in one and by weight in the other.
            static fn (?Division $d) => null === $d ? null : [
                $d->feature,
                $d->left ?? $d->cut,
                $d->next,
                $d->missingSeen,
                $d->missingLeft,
                round($d->gain, 6),
            ],
            Grower::of($cells, $criterion, new Limits(20, (float) $leaf, 2.0 * $leaf), fine: $fine)->grow($own)->divisions,
        );
        $plain = $grow(new Cells($codes, $sizes, $levels, $y, $weights, 2), Criterion::Gini, $leaf);
        $packed = $grow(new Cells($codes, $sizes, $levels, $y, $weights, 2, $times), Criterion::Gini, $leaf);
        self::assertGreaterThan(3, \count($plain));
        // Of cuts that gain the same, one way takes that with the missing values on the left later than the other.
        self::assertSame($missing > 0.0 ? $plain[0][5] ?? null : $plain, $missing > 0.0 ? $packed[0][5] ?? null : $packed);
        $numbers = array_map(static fn (int $v, int $k): float => 3.5 * $v + sin(1 + $k), $y, array_keys($y));
        // Of two rows every column gains the same, so leaves are larger.
        $exact = $grow(new Cells($codes, $sizes, $levels, $numbers, $weights, 0), Criterion::Variance, $leaf + 7);
        self::assertSame(
            $exact,
            $grow(new Cells($codes, $sizes, $levels, $numbers, $weights, 0, $times), Criterion::Variance, $leaf + 7, true),
        );
    }

    /** Rows of a node lie next to each other, whatever was divided before, and none is lost. */
    public function testRowsAreDividedInPlace(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(3));
        $pack = [];
        for ($i = 0; $i < 500; ++$i) {
            $pack[] = $random->getInt(0, 9) << 8;
        }
        $order = new RowOrder([]);
        foreach ([range(0, 499), range(0, 498, 2)] as $rows) {
            $order->begin($rows);
            $nodes = [[0, \count($rows), $rows]];
            $divisions = [
                static fn (int $code): bool => $code >= 1 && $code <= 6,
                static fn (int $code): bool => $code <= 3,
                static fn (int $code): bool => 0 === $code % 3,
                static fn (int $code): bool => true,
            ];
            foreach ($divisions as $depth => $goes) {
                $left = array_map(static fn (int $code): int => $goes($code) ? 1 : 0, range(0, 255));
                $next = [];
                foreach ($nodes as [$from, $end, $wanted]) {
                    $middle = $order->part($depth, $from, $end, $pack, 8, $left);
                    $isLeft = static fn (int $r): bool => $goes($pack[$r] >> 8);
                    $next[] = [$from, $middle, array_filter($wanted, $isLeft)];
                    $next[] = [$middle, $end, array_filter($wanted, static fn (int $r): bool => !$isLeft($r))];
                }
                foreach ($nodes = $next as [$from, $end, $wanted]) {
                    $own = \array_slice($order->of($depth + 1), $from, $end - $from);
                    sort($own);
                    self::assertSame(array_values($wanted), $own);
                }
            }
        }
    }

    /** Rows asked together or one by one, all of them or some, hear the same. */
    public function testRowsAreAskedTogetherOrAlone(): void
    {
        $grove = new Grove(2);
        $grove->begin();
        $root = $grove->node(new Division(0, 1.0, 3, 4, null, true));
        $grove->leaf([1.0, -1.0]);
        $right = $grove->node(new Division(1, 1.0, 0, 0, [2, 5], false));
        $grove->turnRight($root, $right);
        $grove->leaf([2.0, -2.0]);
        $grove->turnRight($right, $grove->leaf([4.0, -4.0]));
        $columns = [[0, 3, 4, 9, 7], [1, 1, 5, 0, 2]];
        $codes = RowCodes::of($columns, 5);
        self::assertSame([1.0, 1.0, 2.0, 4.0, 2.0], $grove->add($codes, [0.0, 0.0, 0.0, 0.0, 0.0]));
        self::assertSame([-1.0, -1.0, -2.0, -4.0, -2.0], Grove::fromArray($grove->toArray())->add($codes, [0.0, 0.0, 0.0, 0.0, 0.0], 1));
        self::assertSame([9.0, 1.0, 9.0, 13.0, 9.0], $grove->add($codes, [9.0, 0.0, 9.0, 9.0, 9.0], 0, 0, 1, 1, [1, 3]));
    }
}
