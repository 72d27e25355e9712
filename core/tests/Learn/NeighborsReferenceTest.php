<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Neighbors\NearestNeighbors;
use Dokimos\Core\Learn\Neighbors\NeighborsModel;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Nearest neighbors against the reference, and against plain loops. */
final class NeighborsReferenceTest extends TestCase
{
    private const INPUTS = ['age', 'income', 'tenure', 'area', 'plan'];

    /** @return array{Table, Table, array<string, mixed>} */
    private static function reference(): array
    {
        $folder = Files::folder('neighbours');

        return [Files::table($folder.'/data.csv'), Files::table($folder.'/new.csv'), Files::expected('neighbours')];
    }

    /**
     * @param ?list<string>        $classes
     * @param array<string, mixed> $settings
     */
    private static function fitted(Table $table, string $target, ?array $classes, array $settings): NeighborsModel
    {
        $y = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $cell = $table->column($target)->text($row);
            $y[] = null === $classes ? (float) $cell : (float) array_search($cell, $classes, true);
        }

        return (new NearestNeighbors($settings + ['find' => false, 'smoothing' => 0.0]))->fit(
            new Task($table, self::INPUTS, $y, range(0, $table->rows - 1), null, $classes),
        );
    }

    public function testNeighborsAndDistances(): void
    {
        [$data, $new, $expected] = self::reference();
        $model = self::fitted($data, 'spend', null, ['k' => 15]);
        foreach ($expected['predictions_new'] as $i => $one) {
            $near = $model->neighbors($new, $i, 15);
            self::assertSame($one['neighbours'], array_map(static fn (array $n): int => $n['row'] + 1, $near), 'row '.($i + 1));
            foreach ($one['distances'] as $k => $d) {
                self::assertEqualsWithDelta($d, $near[$k]['distance'], 1e-10 * $d + 1e-12);
            }
        }
    }

    /** @return iterable<string, array{int, string}> */
    public static function asked(): iterable
    {
        foreach ([1, 5, 15] as $k) {
            yield "$k, all alike" => [$k, 'all alike'];
            yield "$k, nearer ones more" => [$k, 'nearer ones more'];
        }
    }

    #[DataProvider('asked')]
    public function testAnswers(int $k, string $weights): void
    {
        [$data, $new, $expected] = self::reference();
        $suffix = 'all alike' === $weights ? '' : '_weighted';
        $settings = ['k' => $k, 'weights' => $weights];
        $means = self::fitted($data, 'spend', null, $settings)->predict($new);
        $model = self::fitted($data, 'kind', $expected['classes'], $settings);
        $shares = $model->shares($new);
        foreach ($expected['predictions_new'] as $i => $one) {
            $of = $one['k'.$k];
            self::assertEqualsWithDelta($of['mean'.$suffix], $means[$i], 1e-10 * abs($of['mean'.$suffix]));
            /** @var array<string, float> $own */
            $own = array_combine($expected['classes'], array_column($shares, $i));
            foreach ($of['shares'.$suffix] as $class => $share) {
                self::assertEqualsWithDelta($share, $own[$class], 1e-10 * $share + 1e-12, $class);
            }
            $best = array_search(
                true,
                array_map(static fn (float $p): bool => $p >= max([0.0, ...array_values($own)]) - 1e-12, $own),
                true,
            );
            self::assertSame($of['predicted'.$suffix], $best);
        }
    }

    /** What the search leaves out early is never among the nearest: the same as every distance laid down and sorted. */
    public function testTheSearchIsExactOverManyBlocks(): void
    {
        $random = new Randomizer(new Mt19937(3));
        $n = 9000;
        $columns = [];
        foreach (range(0, 7) as $c) {
            $columns['n'.$c] = array_map(
                static fn (): float => match (true) {
                    $c > 5 && 0 === $random->getInt(0, 9) => \NAN,
                    $c < 2 => (float) $random->getInt(0, 4),
                    default => $random->getInt(-500, 500) / 100,
                },
                range(1, $n),
            );
        }
        $levels = array_map(static fn (): ?string => [null, 'a', 'b', 'c'][$random->getInt(0, 3)], range(1, $n));
        $table = Table::of([
            ...array_map(static fn (array $v): NumberColumn => new NumberColumn($v), $columns),
            'g' => CodedColumn::fromCells($levels),
        ]);
        $y = array_map(static fn (int $i): float => (float) $i, range(0, $n - 1));
        $model = (new NearestNeighbors(['find' => false, 'k' => 9]))->fit(new Task(
            $table,
            $table->names(),
            $y,
            range(0, $n - 1),
            null,
            null,
        ));
        $spreads = array_map(static function (array $v): float {
            $own = array_values(array_filter($v, is_finite(...)));
            $mean = array_sum($own) / \count($own);

            return sqrt(array_sum(array_map(static fn (float $x): float => ($x - $mean) ** 2, $own)) / (\count($own) - 1));
        }, $columns);
        foreach ([0, 17, 4096, 8999] as $row) {
            $all = [];
            for ($other = 0; $other < $n; ++$other) {
                $sum = 0.0;
                foreach ($columns as $name => $v) {
                    $d = ($v[$row] - $v[$other]) / $spreads[$name];
                    $sum += is_nan($d) ? 1.0 : $d * $d;
                }
                $all[$other] = $sum + (null !== $levels[$row] && $levels[$row] === $levels[$other] ? 0.0 : 1.0);
            }
            asort($all);
            $near = $model->neighbors($table, $row, 9);
            $expected = array_map(sqrt(...), \array_slice(array_values($all), 0, 9));
            foreach ($expected as $k => $d) {
                self::assertEqualsWithDelta($d, $near[$k]['distance'], 1e-9, "row $row, neighbor $k");
            }
        }
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     */
    private static function on(array $x, array $y): NeighborsModel
    {
        return (new NearestNeighbors())->fit(new Task(Table::of(['x' => new NumberColumn($x)]), ['x'], $y, range(0, 899)));
    }

    public function testHowManyIsChosenByWhatItLoses(): void
    {
        $random = new Randomizer(new Mt19937(8));
        $x = array_map(static fn (): float => $random->getInt(-1000, 1000) / 1000, range(1, 900));
        $smooth = array_map(static fn (float $v): float => (float) ($random->getInt(0, 1000) / 1000 < 0.5 + 0.2 * $v), $x);
        $sharp = array_map(static fn (float $v): float => (float) ((int) floor(8 * $v) & 1), $x);
        self::assertGreaterThan(60, self::on($x, $smooth)->asked(), 'what is nearly chance wants many');
        self::assertLessThan(20, self::on($x, $sharp)->asked(), 'what turns often wants few');
        self::assertSame([5, 15, 31, 61, 101, 201], array_column(self::on($x, $smooth)->weighed(), 'k'));
    }

    public function testMoreNeighborsThanRowsAreAllRows(): void
    {
        $table = Table::of(['x' => new NumberColumn([1.0, 2.0, 3.0])]);
        $model = (new NearestNeighbors(['find' => false, 'k' => 50, 'smoothing' => 0.0]))->fit(new Task(
            $table,
            ['x'],
            [1.0, 2.0, 6.0],
            [0, 1, 2],
            null,
            null,
        ));
        self::assertSame([3.0, 3.0, 3.0], $model->predict($table));
        $this->expectException(CannotFit::class);
        new NearestNeighbors(['k' => 0]);
    }
}
