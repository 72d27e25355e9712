<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\Accumulated;
use Dokimos\Core\Explain\Together;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

/** Accumulated effects and columns that act together, against the reference. */
final class EffectsReferenceTest extends TestCase
{
    /** @return list<float> f = 1 + 1.5 x1 + 0.8 x1 x2 - sin(2 x3) x5 + 0.6 max(x4, 0)² - 0.4 x2 x5 */
    private static function known(Table $table): array
    {
        [$a, $b, $c, $d, $e] = array_map(static fn (string $n): array => $table->number($n)->values, ['x1', 'x2', 'x3', 'x4', 'x5']);

        return array_map(
            static fn (int $i): float => 1 + 1.5 * $a[$i] + 0.8 * $a[$i] * $b[$i] - sin(2 * $c[$i]) * $e[$i] + 0.6 * max($d[$i], 0.0) ** 2 - 0.4 * $b[$i] * $e[$i],
            array_keys($a),
        );
    }

    public function testAccumulatedEffects(): void
    {
        $want = Files::expected('effects');
        $table = Files::table(Files::folder('effects').'/data.csv');
        foreach ($want['ale'] as $column => $own) {
            $got = Accumulated::of(self::known(...), $table, $column, $want['intervals']);
            self::assertNotNull($got);
            self::assertSame($own['counts'], $got->counts, $column);
            foreach ([
                'edges' => $got->edges,
                'local_effects' => $got->local,
                'centre' => [$got->centre],
                'ale' => $got->effect,
            ] as $name => $values) {
                foreach ((array) $own[$name] as $k => $value) {
                    self::assertEqualsWithDelta($value, $values[$k], 1e-9 * abs($value) + 1e-10, "$column $name");
                }
            }
        }
        $flat = Table::of(['x' => new NumberColumn([2.0, 2.0, \NAN])], 3);
        self::assertNull(Accumulated::of(static fn (Table $t): array => $t->number('x')->values, $flat, 'x'), 'one value has no effect');
    }

    public function testColumnsThatActTogether(): void
    {
        $want = Files::expected('effects');
        $together = new Together(self::known(...), Files::table(Files::folder('effects').'/data.csv'));
        foreach ($want['partial_dependence_centred_first_5'] as $column => $own) {
            self::assertEqualsWithDelta($own, \array_slice($together->effect([$column]), 0, 5), 1e-9);
        }
        foreach ($want['h_pairs'] as $own) {
            self::holds($own, $together->pair(...$own['columns']));
        }
        foreach ($want['h_total'] as $own) {
            self::holds($own, $together->total($own['column']));
        }
    }

    /**
     * @param array<string, mixed> $own
     * @param array<string, float> $got
     */
    private static function holds(array $own, array $got): void
    {
        foreach (['numerator', 'denominator', 'h_squared', 'h', 'unscaled'] as $name) {
            $value = abs($own[$name]) < 1e-12 ? 0.0 : $own[$name];
            self::assertEqualsWithDelta(
                $value,
                abs($got[$name]) < 1e-12 ? 0.0 : $got[$name],
                1e-9 * abs($value) + 1e-10,
                json_encode($own['columns'] ?? $own['column']).' '.$name,
            );
        }
    }
}
