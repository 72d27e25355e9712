<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Profile;

use Dokimos\Core\Profile\Association;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Profile\Shape;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Numbers near the end of what a double holds: figures that exist are right, the others are null, and all of it is JSON. */
final class LargeNumbersTest extends TestCase
{
    /** @return iterable<string, array{list<float>}> */
    public static function columns(): iterable
    {
        yield 'both ends' => [[1e300, -1e300, 1.0, 2.0, 1e300]];
        yield 'beyond any width' => [[1.7e308, -1.7e308, 0.0, 1.7e308]];
        yield 'all large' => [[1.1e308, 1.2e308, 1.3e308, 1.4e308]];
        yield 'one value' => [[1.7e308, 1.7e308]];
        yield 'squares too large' => [[1e200, 2e200, 4e200, 9e200]];
        yield 'very small' => [[1e-300, 2e-300, 4e-300, 9e-300]];
    }

    /** @param list<float> $values */
    #[DataProvider('columns')]
    public function testEverythingCanBeWritten(array $values): void
    {
        $summary = NumberSummary::of($values);
        self::assertJson(json_encode($summary->toArray(), \JSON_THROW_ON_ERROR));
        foreach (['min', 'q1', 'median', 'q3', 'max', 'mean'] as $figure) {
            self::assertTrue(is_finite((float) $summary->figure($figure)), $figure);
        }
        self::assertTrue($summary->figure('min') <= $summary->figure('mean') && $summary->figure('mean') <= $summary->figure('max'));
        sort($values);
        $counts = array_count_values(array_map(strval(...), $values));
        $bins = Shape::ofNumbers(array_values(array_unique($values)), array_values($counts));
        self::assertSame(\count($values), array_sum(array_column($bins, 'count')));
        self::assertJson(json_encode($bins, \JSON_THROW_ON_ERROR));
    }

    /** The same figures as of numbers of an everyday size, but for the unit. */
    #[DataProvider('scales')]
    public function testTheShapeDoesNotDependOnTheSize(float $scale): void
    {
        $plain = [1.0, 2.0, 4.0, 9.0, 11.0];
        [$one, $two] = [NumberSummary::of($plain), NumberSummary::of(array_map(static fn (float $v): float => $scale * $v, $plain))];
        foreach (['skewness_G1', 'excess_kurtosis_G2'] as $figure) {
            self::assertEqualsWithDelta($one->figure($figure), $two->figure($figure), 1e-9, $figure);
        }
        foreach (['sd', 'mean', 'median', 'iqr'] as $figure) {
            self::assertEqualsWithDelta((float) $one->figure($figure), (float) $two->figure($figure) / $scale, 1e-9, $figure);
        }
    }

    #[DataProvider('scales')]
    public function testHowColumnsGoTogetherDoesNotDependOnTheSize(float $scale): void
    {
        [$x, $y, $codes] = [[1.0, 2.0, 4.0, 9.0, 11.0, 3.0], [2.0, 1.0, 5.0, 7.0, 9.0, 9.0], [0, 0, 1, 1, 2, 2]];
        $large = array_map(static fn (float $v): float => $scale * $v, $x);
        self::assertEqualsWithDelta(Association::pearson($x, $y), Association::pearson($large, $y), 1e-12);
        self::assertEqualsWithDelta(Association::groups($codes, $x), Association::groups($codes, $large), 1e-9);
    }

    public function testGroupsThatTellANumberExactlyHaveNoF(): void
    {
        self::assertSame(
            ['n' => 4, 'eta_squared' => 1.0, 'f' => null, 'df1' => 1, 'df2' => 2, 'p' => 0.0],
            Association::groups([0, 0, 1, 1], [1.0, 1.0, 1e300, 1e300]),
        );
    }

    /** @return iterable<string, array{float}> */
    public static function scales(): iterable
    {
        yield 'squares overflow' => [1e200];
        yield 'fourth powers overflow' => [1e100];
        yield 'squares underflow' => [1e-200];
    }
}
