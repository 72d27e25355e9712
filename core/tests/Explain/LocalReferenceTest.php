<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\LocalSurrogate;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

/** Local explanations of one record, against the reference. */
final class LocalReferenceTest extends TestCase
{
    public function testALocalExplanation(): void
    {
        $want = Files::expected('local-surrogate');
        $folder = Files::folder('local-surrogate');
        $read = static fn (string $file): array => array_map(
            static fn (string $l): array => str_getcsv($l, escape: ''),
            file($folder.'/'.$file, \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [],
        );
        $scales = [];
        foreach (\array_slice($read('scales.csv'), 1) as [$name, $mean, $sd]) {
            $scales[(string) $name] = [(float) $mean, (float) $sd];
        }
        $columns = $want['columns'];
        $rows = \array_slice($read('data.csv'), 1);
        $local = LocalSurrogate::of(
            $read('record.csv')[1],
            array_map(static fn (array $r): array => \array_slice($r, 0, \count($columns)), $rows),
            array_values(array_map(static fn (string $c): ?array => $scales[$c] ?? null, $columns)),
            array_map(static fn (array $r): float => (float) $r[\count($columns)], $rows),
        );
        self::assertEqualsWithDelta($want['weights_first_5'], \array_slice($local->weights, 0, 5), 1e-8);
        self::assertEqualsWithDelta($want['sum_of_weights'], array_sum($local->weights), 1e-8 * $want['sum_of_weights']);
        $all = range(0, \count($columns) - 1);
        $named = static fn (array $by): array => array_combine(array_map(static fn (int $j): string => $columns[$j], array_keys($by)), $by);
        $check = static function (array $own, array $fit) use ($named): void {
            foreach (['intercept', 'weighted_r_squared', 'prediction_at_record'] as $name) {
                self::assertEqualsWithDelta($own[$name], $fit[$name], 1e-8 * abs($own[$name]), $name);
            }
            foreach (['coefficients', 'contributions'] as $name) {
                foreach ($named($fit[$name]) as $column => $value) {
                    self::assertEqualsWithDelta($own[$name][$column], $value, 1e-8 * abs($own[$name][$column]), "$name $column");
                }
            }
        };
        $check($want['least_squares'], $local->fit($all));
        $check($want['ridge_fit'], $local->fit($all, $want['ridge']));
        $steps = $local->forward($want['top']);
        foreach ($want['forward'] as $k => $own) {
            self::assertSame($own['added'], $columns[$steps[$k]['added']]);
            self::assertEqualsWithDelta($own['tried'], $named($steps[$k]['tried']), 1e-8);
        }
        $chosen = array_map(static fn (array $s): int => $s['added'], $steps);
        $check($want['chosen_least_squares'], $local->fit($chosen));
        $check($want['chosen_ridge'], $local->fit($chosen, $want['ridge']));
    }
}
