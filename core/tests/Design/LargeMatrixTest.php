<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Design;

use Dokimos\Core\Design\Matrix;
use Dokimos\Core\Design\Standardized;
use Dokimos\Core\Math\Qr;
use Dokimos\Core\Random;
use Dokimos\Core\Table\Rows;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What is done otherwise with many rows gives what few rows give. */
final class LargeMatrixTest extends TestCase
{
    public function testALargeMatrixKeepsItsNumbersToTheLastBit(): void
    {
        $rows = 41_000;
        $width = 100;
        self::assertTrue(Matrix::isLarge($rows, $width) && !Matrix::isLarge($rows, 90));
        $value = static fn (int $i, int $j): float => 0 === $j ? 1.0 : sin($i * 0.37 + $j) / 3;
        $columns = static function () use ($rows, $width, $value): \Generator {
            for ($j = 0; $j < $width; ++$j) {
                yield array_map(static fn (int $i): float => $value($i, $j), range(0, $rows - 1));
            }
        };
        $matrix = Matrix::ofColumns($columns(), array_map(static fn (int $j): string => 'c'.$j, range(0, $width - 1)), $rows);
        self::assertSame([41, 40_000 + 1000], [$matrix->count(), $matrix->rows]);
        self::assertSame($value(40_500, 7), $matrix->block(39)[7][40_500 - 39 * Matrix::BLOCK]);
        $seen = 0;
        foreach ($matrix->column(42) as $part) {
            foreach ($part as $v) {
                self::assertSame($value($seen, 42), $v);
                $seen += 97;
                break;
            }
            $seen = (intdiv($seen, Matrix::BLOCK) + 1) * Matrix::BLOCK;
        }
        self::assertSame(99, \count($matrix->without([3])->block(5)));
        $weights = array_map(static fn (int $b): array => array_fill(0, $b < 40 ? Matrix::BLOCK : 40, 1.0), range(0, 40));
        [$scaled, $means, $spreads] = Standardized::of($matrix, $weights, (float) $rows);
        self::assertSame(($value(2000, 9) - $means[9]) * (1.0 / $spreads[9]), $scaled->block(1)[9][2000 - Matrix::BLOCK]);
    }

    /** @return iterable<string, array{int, bool}> */
    public static function parts(): iterable
    {
        yield 'many parts' => [60, false];
        yield 'a part smaller than the triangle' => [5, false];
        yield 'a column that others say' => [60, true];
        yield 'one part' => [1000, true];
    }

    #[DataProvider('parts')]
    public function testLeastSquaresInPartsIsLeastSquares(int $size, bool $dependent): void
    {
        $random = Random::stream(3, 'parts');
        $rows = 500;
        $columns = [array_fill(0, $rows, 1.0)];
        for ($j = 1; $j < 8; ++$j) {
            $columns[] = array_map(static fn (): float => $random->getInt(-1000, 1000) * 10 ** ($j - 4), range(1, $rows));
        }
        if ($dependent) {
            $columns[5] = array_map(static fn (float $a, float $b): float => 2 * $a - $b, $columns[2], $columns[3]);
        }
        $y = array_map(
            static fn (int $i): float => $columns[2][$i] - 3 * $columns[6][$i] + $random->getInt(-100, 100),
            range(0, $rows - 1),
        );
        $whole = Qr::solve($columns, $y);
        $parts = [];
        for ($from = 0; $from < $rows; $from += $size) {
            $parts[] = array_map(static fn (array $c): array => \array_slice($c, $from, $size), [...$columns, $y]);
        }
        $some = Qr::inParts($parts, 8);
        self::assertSame([$whole->kept, $whole->dependent], [$some->kept, $some->dependent]);
        self::assertSame($dependent ? [5] : [], $some->dependent);
        self::assertEqualsWithDelta($whole->solution, $some->solution, 1e-9 * max([1e-9, ...array_map(abs(...), $whole->solution)]));
        self::assertEqualsWithDelta(1.0, $some->rss / $whole->rss, 1e-11);
        foreach ($whole->inverse() as $i => $row) {
            foreach ($row as $k => $v) {
                self::assertEqualsWithDelta(abs($v), abs($some->inverse()[$i][$k]), 1e-9 * abs($v) + 1e-300);
            }
        }
    }

    public function testRowsWithoutSomeKeepTheirOrder(): void
    {
        self::assertSame([9, 3, 5], Rows::without([9, 1, 3, 5, 2], [2, 1, 77]));
        self::assertSame([], Rows::without([], [1]));
    }
}
