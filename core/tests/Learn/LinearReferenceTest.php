<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Linear\LinearModel;
use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Learn\Linear\LinearReport;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class LinearReferenceTest extends TestCase
{
    /** @return iterable<string, array{string, string, list<string>, float}> */
    public static function cases(): iterable
    {
        yield 'numbers, categories, missing' => [
            'linear-regression',
            'rent',
            ['area', 'age', 'distance', 'rooms', 'quarter', 'heating'],
            1e-8,
        ];
        yield 'nearly collinear' => ['linear-regression-illconditioned', 'y', ['x1', 'x2', 'x3', 'x4', 'x5'], 1e-6];
    }

    /** @param list<string> $inputs */
    #[DataProvider('cases')]
    public function testEveryFigureIsThatOfTheReference(string $case, string $target, array $inputs, float $tolerance): void
    {
        $table = Files::table(Files::folder($case).'/data.csv');
        $task = new Task($table, $inputs, $table->number($target)->values, range(0, $table->rows - 1), null, null);
        $fitted = (new LinearRegression())->fit($task);
        /** @var array<string, mixed> $stored */
        $stored = json_decode(json_encode($fitted->toArray(), \JSON_THROW_ON_ERROR), true);
        $model = LinearModel::fromArray($stored);
        $report = LinearReport::of($model, $task) + ['predictions_new' => LinearReport::predictions(
            $model,
            Files::table(Files::folder($case).'/new.csv'),
        )];
        self::same(Files::expected($case), $report, $tolerance, '');
    }

    private static function same(mixed $wanted, mixed $got, float $tolerance, string $at): void
    {
        if (\is_array($wanted)) {
            self::assertIsArray($got, $at);
            foreach ($wanted as $key => $w) {
                self::assertArrayHasKey($key, $got, $at);
                self::same($w, $got[$key], $tolerance, $at.'/'.$key);
            }
        } elseif (\is_float($wanted) || \is_int($wanted)) {
            $own = preg_match('#/p$|_p$#', $at) ? max(1e-7, 10 * $tolerance) : (preg_match('#vif#', $at) && $tolerance > 1e-7 ? 1e-4 : $tolerance);
            self::assertEqualsWithDelta($wanted, $got, $own * abs($wanted) + 1e-12, $at);
        } else {
            self::assertSame($wanted, $got, $at);
        }
    }

    public function testWeightsAreRepetitionsAndDependentTermsAreNamed(): void
    {
        $x = [1.0, 2.0, 3.0, 5.0, 8.0];
        $y = [2.0, 3.5, 3.0, 7.0, 9.5];
        $table = Table::of(['x' => new NumberColumn($x), 'double' => new NumberColumn(array_map(static fn (float $v) => 2 * $v, $x))]);
        $weighted = (new LinearRegression())->fit(new Task($table, ['x', 'double'], $y, range(0, 4), [1.0, 2.0, 1.0, 3.0, 1.0], null));
        $rows = [0, 1, 1, 2, 3, 3, 3, 4];
        $repeated = (new LinearRegression())->fit(new Task(
            $table->take($rows),
            ['x', 'double'],
            array_map(static fn (int $r) => $y[$r], $rows),
            range(0, 7),
            null,
            null,
        ));
        self::assertSame(['double'], $weighted->aliased);
        self::assertStringContainsString('double said nothing', implode(' ', $weighted->notes()));
        foreach ($weighted->estimates as $j => $b) {
            self::assertEqualsWithDelta($b, $repeated->estimates[$j], 1e-12);
        }
        self::assertEqualsWithDelta($weighted->figures->rss, $repeated->figures->rss, 1e-12);
    }
}
