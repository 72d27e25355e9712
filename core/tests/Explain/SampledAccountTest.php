<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\SampledAccount;
use Dokimos\Core\Explain\Shapley;
use Dokimos\Core\Explain\Told;
use Dokimos\Core\Random;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

final class SampledAccountTest extends TestCase
{
    private const COLUMNS = ['x1', 'x2', 'x3', 'x4', 'x5'];

    /** @return list<float> */
    private static function known(Table $table): array
    {
        [$a, $b, $c, $d, $e] = array_map(static fn (string $n): array => $table->number($n)->values, self::COLUMNS);

        return array_map(
            static fn (int $i): float => 0.5 + 2 * $a[$i] + $a[$i] * $b[$i] - 3 * max($c[$i], 0.0) + exp(-$d[$i] ** 2) * $e[$i] + 0.25 * $b[$i] ** 2,
            array_keys($a),
        );
    }

    /** At most one in a hundred drawn values lies outside three of the errors it states. */
    public function testLiesWhereItsErrorsSay(): void
    {
        $want = Files::expected('shapley')['function_interventional'];
        [$background, $data] = array_map(
            static fn (string $f): Table => Files::table(Files::folder('shapley')."/$f.csv"),
            ['background', 'data'],
        );
        $outside = $all = 0;
        $players = array_map(static fn (string $c): array => [$c], self::COLUMNS);
        foreach (range(1, 40) as $seed) {
            foreach ($want as $row => $own) {
                $got = SampledAccount::of(self::known(...), $background, $data->take([$row]), $players, 0.0, $seed);
                self::assertNotNull($got);
                self::assertEqualsWithDelta($own['base'], $got->base, 1e-9);
                self::assertEqualsWithDelta($got->answer - $got->base, array_sum($got->values), 1e-9, 'adds up whatever was drawn');
                foreach (array_values($own['phi']) as $j => $phi) {
                    ++$all;
                    $outside += abs($got->values[$j] - $phi) > 3 * $got->errors[$j] + 1e-9 ? 1 : 0;
                }
            }
        }
        self::assertLessThanOrEqual(0.01 * $all, $outside);
    }

    public function testAColumnThatIsNotReadHasNoAccountAndTheSeedDecidesTheRest(): void
    {
        $background = Files::table(Files::folder('shapley').'/background.csv');
        $f = static fn (Table $t): array => array_map(
            static fn (float $a, float $b, float $c): float => $a * $b * $c,
            ...array_map(static fn (string $n): array => $t->number($n)->values, ['x1', 'x2', 'x3']),
        );
        $players = [['x1'], ['x2'], ['x3'], ['x4'], ['x5']];
        $of = static fn (int $seed): ?Told => SampledAccount::of($f, $background, $background->take([3]), $players, 0.0, $seed);
        self::assertSame([0.0, 0.0], \array_slice($of(1)->values ?? [], 3));
        self::assertSame([0.0, 0.0], \array_slice($of(1)->errors ?? [], 3));
        self::assertEquals($of(1), $of(1));
        self::assertNotEquals($of(1), $of(2));
        // Two players are shared out exactly by an order and its reverse; columns may come in together.
        $two = SampledAccount::of($f, $background, $background->take([3]), [['x1', 'x3'], ['x2']], 0.0, 9);
        $mean = static fn (array $v): float => array_sum($v) / \count($v);
        $exact = Shapley::exact(2, static function (int $set) use ($background, $f, $mean): float {
            $own = $background;
            foreach (['x1' => 0, 'x3' => 0, 'x2' => 1] as $name => $j) {
                $own = ($set >> $j & 1) === 1 ? $own->with(
                    $name,
                    $background->column($name)->take(array_fill(0, $background->rows, 3)),
                ) : $own;
            }

            return $mean($f($own));
        });
        self::assertEqualsWithDelta($exact, $two->values ?? [], 1e-12);
        self::assertEqualsWithDelta([0.0, 0.0], $two->errors ?? [], 1e-12);
    }

    public function testDrawsUntilItIsSureEnoughAndHasNothingToSayOfNoAnswer(): void
    {
        $background = Files::table(Files::folder('shapley').'/background.csv');
        $players = array_map(static fn (string $c): array => [$c], self::COLUMNS);
        $f = static fn (Table $t): array => array_map(
            static fn (float $a, float $b, float $c): float => $a * $b * $c,
            ...array_map(static fn (string $n): array => $t->number($n)->values, ['x1', 'x2', 'x3']),
        );
        $of = static fn (float $enough): ?Told => SampledAccount::of(
            $f,
            $background,
            $background->take([3]),
            $players,
            $enough,
            1,
        );
        [$quick, $sure] = [$of(1e9), $of(0.0)];
        self::assertGreaterThan($quick?->orders, $sure?->orders);
        self::assertGreaterThanOrEqual(max([0.0, ...$sure->errors ?? []]), max([0.0, ...$quick->errors ?? []]));
        self::assertNull(SampledAccount::of(
            static fn (Table $t): array => array_fill(0, $t->rows, \NAN),
            $background,
            $background->take([0]),
            $players,
            0.0,
            1,
        ));
    }

    public function testTablesStandBelowEachOther(): void
    {
        $random = Random::stream(4, 'stack');
        $of = static fn (string ...$levels): Table => Table::of([
            'n' => new NumberColumn([1.5, \NAN]), 'd' => new DateColumn([86400, DateColumn::MISSING]), 't' => new TextColumn(['a b', null]),
            'c' => new CodedColumn([$random->getInt(0, 1), -1], array_values($levels)),
        ], 2);
        [$above, $below] = [$of('x', 'y'), $of('y', 'z')];
        $both = Stacked::of($above, $below);
        self::assertSame(4, $both->rows);
        foreach ($both->names() as $name) {
            foreach ([0, 1] as $row) {
                self::assertSame($above->column($name)->text($row), $both->column($name)->text($row), $name);
                self::assertSame($below->column($name)->text($row), $both->column($name)->text($row + 2), $name);
            }
        }
        $this->expectException(\DomainException::class);
        Stacked::columns(new NumberColumn([1.0]), new TextColumn(['a']));
    }
}
