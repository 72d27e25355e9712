<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Prepare;

use Dokimos\Core\Math\Lloyd;
use Dokimos\Core\Math\SymmetricEigen;
use Dokimos\Core\Prepare\FittedBins;
use Dokimos\Core\Prepare\FittedComponents;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Profile\EntropyBins;
use Dokimos\Core\Profile\Evidence;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

/** Bins, evidence, components and groups hold the reference figures. */
final class ReferenceTest extends TestCase
{
    private static function close(mixed $expected, mixed $got, float $relative, string $what): void
    {
        if (\is_array($expected)) {
            self::assertIsArray($got, $what);
            self::assertSame(array_keys($expected), array_keys($got), $what);
            foreach ($expected as $key => $value) {
                self::close($value, $got[$key], $relative, "$what/$key");
            }
        } elseif (\is_float($expected) || \is_int($expected)) {
            self::assertTrue(\is_float($got) || \is_int($got), $what);
            self::assertEqualsWithDelta($expected, $got, $relative * abs((float) $expected) + 1e-12, $what);
        } else {
            self::assertSame($expected, $got, $what);
        }
    }

    /** @return list<float> */
    private static function values(Table $table, string $name): array
    {
        return $table->number($name)->values;
    }

    public function testBinsOfEqualWidthAndFrequency(): void
    {
        $expected = Files::expected('discretise');
        $table = Files::table(Files::folder('discretise').'/data.csv');
        $checked = 0;
        foreach (['equal_width' => 'equal width', 'equal_frequency' => 'equal frequency'] as $key => $method) {
            self::assertIsArray($expected[$key]);
            foreach ($expected[$key] as $column => $sizes) {
                self::assertIsArray($sizes);
                foreach ('equal_width' === $key ? [5 => $sizes] : $sizes as $bins => $case) {
                    self::assertIsArray($case);
                    $fitted = Preparation::fromArray([[
                        'step' => 'bins',
                        'columns' => [$column],
                        'method' => $method,
                        'bins' => $bins,
                    ]])->fit($table, range(0, $table->rows - 1))->steps[0];
                    self::assertInstanceOf(FittedBins::class, $fitted);
                    $cuts = $fitted->cuts[$column];
                    self::close($case['edges'], $cuts, 1e-10, "$key/$column/$bins");
                    $counts = array_count_values(QuantileBins::codes(self::values($table, (string) $column), $cuts));
                    self::assertSame($case['counts'], array_map(static fn (int $i) => $counts[$i] ?? 0, range(0, \count($cuts))));
                    ++$checked;
                }
            }
        }
        self::assertGreaterThan(5, $checked);
    }

    public function testEntropyCutsWithTheirTrace(): void
    {
        $expected = Files::expected('discretise');
        $table = Files::table(Files::folder('discretise').'/data.csv');
        self::assertIsArray($expected['mdl']);
        foreach ($expected['mdl'] as $case) {
            self::assertIsArray($case);
            $target = $table->column((string) $case['target']);
            $index = $codes = [];
            for ($row = 0; $row < $table->rows; ++$row) {
                $text = $target->text($row);
                $codes[] = null === $text ? -1 : $index[$text] ??= \count($index);
            }
            $got = EntropyBins::of(self::values($table, (string) $case['column']), $codes);
            self::close(array_intersect_key($case, $got), $got, 1e-10, $case['column'].' by '.$case['target']);
        }
    }

    public function testWeightOfEvidence(): void
    {
        $expected = Files::expected('discretise');
        $table = Files::table(Files::folder('discretise').'/data.csv');
        self::assertIsArray($expected['woe']);
        foreach ($expected['woe'] as $case) {
            self::assertIsArray($case);
            $column = $table->column((string) $case['column']);
            $bins = isset($case['bins']) ? QuantileBins::codes(
                self::values($table, (string) $case['column']),
                QuantileBins::edges(self::values($table, (string) $case['column']), (int) $case['bins']),
            ) : null;
            $counts = [];
            for ($row = 0; $row < $table->rows; ++$row) {
                $level = null === $bins ? $column->text($row) : ($bins[$row] < 0 ? null : (string) ($bins[$row] + 1));
                $counts[$level ?? '(missing)'] ??= [0, 0];
                ++$counts[$level ?? '(missing)']['1' === $table->column('event')->text($row) ? 0 : 1];
            }
            $got = Evidence::of($counts);
            self::close($case['levels'], $got->levels, 1e-10, (string) $case['column']);
            self::close([$case['iv'], $case['iv_unsmoothed']], [$got->value, $got->unsmoothed], 1e-10, (string) $case['column']);
        }
    }

    public function testPrincipalComponentsAndTruncatedDecomposition(): void
    {
        $expected = Files::expected('decomposition');
        $table = Files::table(Files::folder('decomposition').'/data.csv');
        $all = range(0, $table->rows - 1);
        $fit = static function (array $more) use ($expected, $table, $all): FittedComponents {
            $step = Preparation::fromArray([[
                'step' => 'components',
                'columns' => $expected['columns'],
            ] + $more])->fit($table, $all)->steps[0];
            self::assertInstanceOf(FittedComponents::class, $step);

            return $step;
        };
        self::assertIsArray($expected['pca']);
        $fitted = $fit(['count' => \count($expected['pca']['components'])]);
        self::close($expected['pca']['explained_share'], $fitted->shares, 1e-8, 'shares');
        self::close($expected['pca']['components'], $fitted->vectors, 1e-8, 'vectors');
        $made = $fitted->apply($table);
        self::assertIsArray($expected['pca']['scores_first_5_rows']);
        foreach ($expected['pca']['scores_first_5_rows'] as $row => $scores) {
            self::close(
                $scores,
                array_map(static fn (int $i) => $made->number('component_'.$i)->values[$row], range(1, \count($scores))),
                1e-8,
                "scores of row $row",
            );
        }
        self::assertCount(3, $fit(['share' => 0.9])->vectors, 'as many as the share needs');

        self::assertIsArray($expected['svd']);
        $fitted = $fit(['method' => 'truncated SVD', 'count' => \count($expected['svd']['singular_values'])]);
        self::close($expected['svd']['right_vectors'], $fitted->vectors, 1e-8, 'right vectors');
        $made = $fitted->apply($table);
        self::assertIsArray($expected['svd']['singular_values']);
        foreach ($expected['svd']['singular_values'] as $i => $value) {
            // The length of a factor over all rows is its singular value.
            self::close(
                $value,
                sqrt(array_sum(array_map(static fn (float $v) => $v * $v, $made->number('factor_'.($i + 1))->values))),
                1e-8,
                "singular value $i",
            );
        }
    }

    public function testEigenvaluesOfAMatrixWithEqualOnes(): void
    {
        $found = SymmetricEigen::of([[2.0, 0.0, 0.0], [0.0, 2.0, 0.0], [0.0, 0.0, 5.0]]);
        self::assertSame([5.0, 2.0, 2.0], $found->values);
        self::assertSame([0.0, 0.0, 1.0], $found->vectors[0]);
    }

    public function testGroupsFromGivenCenters(): void
    {
        $expected = Files::expected('decomposition');
        $read = static function (string $file): array {
            $table = Files::table(Files::folder('decomposition').'/'.$file);

            return array_map(
                static fn (int $row) => array_map(static fn (string $n) => self::values($table, $n)[$row], $table->names()),
                range(0, $table->rows - 1),
            );
        };
        $points = $read('data.csv');
        $found = Lloyd::from($points, $read('centres.csv'));
        self::assertIsArray($expected['kmeans']);
        self::close($expected['kmeans']['centres'], $found->centers, 1e-8, 'centers');
        self::close($expected['kmeans']['inertia'], $found->inertia, 1e-8, 'inertia');
        self::assertSame($expected['kmeans']['rounds'], $found->rounds);
        self::assertSame($expected['kmeans']['labels'], array_map(static fn (int $l) => $l + 1, $found->labels));
        self::assertEquals(Lloyd::drawn($points, 3, 7), Lloyd::drawn($points, 3, 7), 'the same draw');
    }
}
