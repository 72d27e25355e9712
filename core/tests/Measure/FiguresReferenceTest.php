<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\ClassFigures;
use Dokimos\Core\Measure\NumberFigures;
use Dokimos\Core\Tests\Files;
use Dokimos\Core\Tests\Same;
use PHPUnit\Framework\TestCase;

final class FiguresReferenceTest extends TestCase
{
    public function testFiguresOfNumbers(): void
    {
        $table = Files::table(Files::folder('metrics-regression').'/data.csv');
        $column = static fn (string $name): array => $table->number($name)->values;
        Same::as(
            Files::expected('metrics-regression'),
            NumberFigures::of($column('actual'), $column('predicted'), $column('weight')),
            1e-10,
        );
    }

    public function testFiguresOfClasses(): void
    {
        $table = Files::table(Files::folder('metrics-multiclass').'/data.csv');
        $expected = Files::expected('metrics-multiclass');
        /** @var list<string> $classes */
        $classes = $expected['classes'];
        $actual = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $actual[] = (int) array_search($table->column('actual')->text($row), $classes, true);
        }
        Same::as(
            $expected,
            ClassFigures::of($classes, $actual, array_map(static fn (string $c): array => $table->number('p_'.$c)->values, $classes)),
            1e-10,
        );
    }

    public function testWhatIsNotDefinedIsSaidToBe(): void
    {
        $constant = NumberFigures::of([0.0, 0.0], [1.0, -1.0], [0.0, 0.0]);
        self::assertSame([null, null, null, null], [$constant['r2'], $constant['mape'], $constant['wmape'], $constant['pearson']]);
        self::assertSame(['rmse' => null, 'mae' => null, 'bias' => null, 'r2' => null], $constant['weighted']);
        self::assertNull(NumberFigures::of([-1.0, 2.0], [1.0, 1.0])['rmsle'], 'a logarithm of what is below 0');
        self::assertSame(['n' => 0], NumberFigures::of([], []));
        $one = ClassFigures::of(['a', 'b'], [0, 0], [[1.0, 1.0], [0.0, 0.0]]);
        self::assertSame([1.0, null, null, null], [(float) $one['accuracy'], $one['kappa'], $one['mcc'], $one['macro_auc']]);
        $this->expectException(\LengthException::class);
        NumberFigures::of([1.0], []);
    }
}
