<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Profile;

use Dokimos\Core\Profile\Association;
use Dokimos\Core\Profile\Information;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Profile\Ranks;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Relations of two columns against the reference, and what must hold for any two. */
final class AssociationTest extends TestCase
{
    private static ?Table $table = null;

    private static function table(): Table
    {
        return self::$table ??= Files::table(Files::folder('association').'/data.csv');
    }

    /** @return list<int> */
    private static function codes(string $name): array
    {
        $column = self::table()->column($name);

        return $column instanceof CodedColumn ? $column->codes : QuantileBins::codes(
            self::table()->number($name)->values,
            QuantileBins::edges(self::table()->number($name)->values),
        );
    }

    /** @return iterable<string, array{string}> */
    public static function parts(): iterable
    {
        foreach ([
            'pearson',
            'spearman',
            'categorical_pairs',
            'category_numeric',
            'bin_edges',
            'mutual_information',
            'target_gain',
        ] as $part) {
            yield $part => [$part];
        }
    }

    #[DataProvider('parts')]
    public function testEveryReferenceFigureHolds(string $part): void
    {
        /** @var array<array-key, array<string, mixed>> $cases */
        $cases = Files::expected('association')[$part];
        $checked = 0;
        foreach ($cases as $key => $case) {
            if ('pearson' === $part || 'spearman' === $part) {
                foreach ($case as $other => $expected) {
                    [$x, $y] = [self::table()->number((string) $key)->values, self::table()->number($other)->values];
                    $this->compare(
                        $expected,
                        'pearson' === $part ? Association::pearson($x, $y) : Association::spearman($x, $y),
                        "$part/$key/$other",
                        $checked,
                    );
                }
                continue;
            }
            $text = static fn (string $name): string => \is_string($case[$name] ?? null) ? $case[$name] : '';
            $got = match ($part) {
                'categorical_pairs' => Association::categories(self::codes($text('a')), self::codes($text('b'))),
                'category_numeric' => Association::groups(self::codes($text('category')), self::table()->number($text('numeric'))->values),
                'bin_edges' => QuantileBins::edges(self::table()->number((string) $key)->values),
                'mutual_information' => Information::mutual(self::codes($text('a')), self::codes($text('b'))),
                default => self::table()->column($text('column')) instanceof CodedColumn
                    ? Information::byLevels(self::codes($text('target')), self::codes($text('column')))
                    : Information::byCut(self::codes($text('target')), self::table()->number($text('column'))->values),
            };
            $this->compare(array_filter($case, static fn (mixed $v) => !\is_string($v)), $got, "$part/$key", $checked);
        }
        self::assertGreaterThan(35, $checked);
    }

    private function compare(mixed $expected, mixed $got, string $path, int &$checked): void
    {
        if (\is_array($expected)) {
            foreach ($expected as $key => $value) {
                self::assertIsArray($got, $path);
                self::assertArrayHasKey($key, $got, $path);
                $this->compare($value, $got[$key], "$path/$key", $checked);
            }

            return;
        }
        self::assertIsNumeric($got, $path);
        self::assertIsNumeric($expected, $path);
        $relative = str_ends_with($path, '/p') ? 1e-7 : 1e-9;
        // Nothing in this case is nought by chance: where the reference says 0, the relation is of a column with itself.
        self::assertLessThanOrEqual(
            $relative * abs((float) $expected) + 1e-300 + (0.0 === (float) $expected ? 1e-12 : 0.0),
            abs((float) $expected - (float) $got),
            "$path: $expected and $got",
        );
        ++$checked;
    }

    public function testRanksShareTiesAndAddUp(): void
    {
        self::assertSame([2.5, 1.0, 2.5, 4.0], Ranks::of([3.0, 1.0, 3.0, 9.0]));
        self::assertSame([], Ranks::of([]));
        mt_srand(5);
        $values = array_map(static fn () => (float) mt_rand(0, 30), range(1, 400));
        self::assertEqualsWithDelta(400 * 401 / 2, array_sum(Ranks::of($values)), 1e-9);
    }

    public function testASignTurnsWithAColumnAndUnitsDoNotMatter(): void
    {
        [$x, $y] = [self::table()->number('income')->values, self::table()->number('age')->values];
        $plain = Association::pearson($x, $y);
        $turned = Association::pearson(array_map(static fn (float $v) => 7 - 3 * $v, $x), $y);
        self::assertEqualsWithDelta(-(float) $plain['r'], $turned['r'], 1e-12);
        self::assertEqualsWithDelta(1.0, $turned['p'] / $plain['p'], 1e-9);
        $bent = Association::spearman(array_map(static fn (float $v) => exp($v / 20), $x), $y);
        self::assertEqualsWithDelta(Association::spearman($x, $y)['rho'], $bent['rho'], 1e-14);
        self::assertEqualsWithDelta($plain['r'], Association::pearson($y, $x)['r'], 1e-14);
    }

    public function testNamesOfLevelsAndOrderOfRowsDoNotMatter(): void
    {
        [$a, $b] = [self::codes('channel'), self::codes('left')];
        $plain = Association::categories($a, $b);
        $renamed = Association::categories(array_map(static fn (int $c) => $c < 0 ? -1 : 9 - $c, $a), $b);
        self::assertEqualsWithDelta($plain['chi2'], $renamed['chi2'], 1e-9);
        self::assertEquals($plain, Association::categories(array_reverse($a), array_reverse($b)));
        $swapped = Association::categories($b, $a);
        self::assertEqualsWithDelta($plain['cramers_v_corrected'], $swapped['cramers_v_corrected'], 1e-12);
    }

    public function testTheStrongestAndTheWeakestRelations(): void
    {
        $same = [0, 1, 2, 0, 1, 2, 0, 1, 2, -1];
        self::assertEqualsWithDelta(1.0, Association::categories($same, $same)['cramers_v'], 1e-12);
        self::assertEqualsWithDelta(log(3), Information::mutual($same, $same)['mutual_information_nats'], 1e-12);
        self::assertEqualsWithDelta(0.0, Association::categories([0, 0, 1, 1], [0, 1, 0, 1])['chi2'], 1e-12);
        self::assertSame(1.0, Association::groups([0, 0, 1, 1], [5.0, 5.0, 9.0, 9.0])['eta_squared']);
        self::assertSame(0.0, Association::groups([0, 0, 1, 1], [5.0, 5.0, 9.0, 9.0])['p']);
        self::assertEqualsWithDelta(1.0, Information::byCut([0, 0, 1, 1], [1.0, 2.0, 3.0, 4.0])['information_gain_bits'], 1e-12);
        self::assertSame(2.5, Information::byCut([0, 0, 1, 1], [1.0, 2.0, 3.0, 4.0])['gini_threshold']);
    }

    public function testWhereThereIsNothingToTellThereIsNoFigure(): void
    {
        self::assertSame(['n' => 2, 'r' => null, 'p' => null], Association::pearson([1.0, 2.0, \NAN], [1.0, 2.0, 3.0]));
        self::assertNull(Association::pearson([1.0, 1.0, 1.0], [1.0, 2.0, 3.0])['r']);
        self::assertNull(Association::categories([0, 0, 0], [0, 1, 0])['cramers_v']);
        self::assertNull(Association::groups([0, 0], [1.0, 2.0])['eta_squared']);
        self::assertNull(Association::groups([0, 1, 0], [3.0, 3.0, 3.0])['eta_squared']);
        self::assertNull(Information::mutual([-1], [0])['mutual_information_nats']);
        self::assertNull(Information::byLevels([-1], [0])['gini_gain']);
        self::assertNull(Information::byCut([0, 1], [2.0, 2.0])['gini_gain']);
        self::assertSame([], QuantileBins::edges([\NAN, \NAN]));
    }

    public function testEdgesOfWholeNumbersAreWholeAndMakeTheSameBins(): void
    {
        mt_srand(8);
        $values = array_map(static fn () => (float) mt_rand(0, 40), range(1, 500));
        $edges = QuantileBins::spoken($values, 7);
        self::assertSame(array_map(floor(...), $edges), $edges);
        self::assertSame(QuantileBins::codes($values, QuantileBins::edges($values, 7)), QuantileBins::codes($values, $edges));
        self::assertSame(QuantileBins::edges([0.5, 1.5, 2.5], 2), QuantileBins::spoken([0.5, 1.5, 2.5], 2));
    }

    public function testBinsHoldAboutEquallyMany(): void
    {
        $values = array_map(static fn (int $i) => sin($i) * $i, range(1, 1000));
        $edges = QuantileBins::edges($values, 10);
        self::assertCount(9, $edges);
        foreach (array_count_values(QuantileBins::codes($values, $edges)) as $count) {
            self::assertEqualsWithDelta(100, $count, 1);
        }
        self::assertSame([-1, 0, 1, 1], QuantileBins::codes([\NAN, 5.0, 5.1, 99.0], [5.0]), 'an edge belongs to the bin below it');
    }
}
