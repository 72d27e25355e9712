<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\Conformal;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

/** Promised coverage of intervals and sets, against the reference. */
final class ConformalReferenceTest extends TestCase
{
    public function testPromisedCoverageOfNumbers(): void
    {
        $want = Files::expected('conformal');
        $folder = Files::folder('conformal');
        [$held, $new, $folds, $says] = array_map(
            static fn (string $f): Table => Files::table("$folder/$f.csv"),
            ['calibration', 'new', 'folds', 'fold_predictions'],
        );
        $values = static fn (Table $t, string $n): array => $t->number($n)->values;
        $misses = static fn (Table $t, string $p): array => array_map(
            static fn (float $a, float $b): float => abs($a - $b),
            $values($t, 'actual'),
            $values($t, $p),
        );
        $errors = $misses($held, 'predicted');
        foreach ([
            'split' => $errors,
            'split_first_15_rows' => \array_slice($errors, 0, 15),
            'scaled' => array_map(static fn (float $e, float $s): float => $e / $s, $errors, $values($held, 'spread')),
        ] as $name => $scores) {
            foreach ($want[$name] as $own) {
                $percent = (int) round(100 * $own['level']);
                $q = Conformal::quantile($scores, $percent);
                self::assertSame($own['rank'], Conformal::rank(\count($scores), $percent));
                if (null === $own['quantile']) {
                    self::assertNull($q);
                    continue;
                }
                self::assertEqualsWithDelta($own['quantile'], $q, 1e-10 * $own['quantile']);
                foreach ($values($new, 'predicted') as $i => $p) {
                    $reach = $q * ('scaled' === $name ? $values($new, 'spread')[$i] : 1.0);
                    self::assertEqualsWithDelta([$own['low'][$i], $own['high'][$i]], [$p - $reach, $p + $reach], 1e-8);
                }
            }
        }
        foreach ($want['cv_plus'] as $own) {
            $percent = (int) round(100 * $own['level']);
            foreach (range(0, $says->rows - 1) as $i) {
                $of = array_map(static fn (float $k): float => $values($says, 'fold_'.(int) $k)[$i], $values($folds, 'fold'));
                self::assertEqualsWithDelta(
                    [$own['low'][$i], $own['high'][$i]],
                    Conformal::crossed($of, $misses($folds, 'out_of_fold'), $percent),
                    1e-8,
                );
            }
        }
    }

    public function testPromisedCoverageOfClasses(): void
    {
        $want = Files::expected('conformal')['classes'];
        $folder = Files::folder('conformal');
        [$held, $new] = array_map(static fn (string $f): Table => Files::table("$folder/$f.csv"), ['class_calibration', 'class_new']);
        $chances = static fn (Table $t, int $row): array => array_combine(
            $want['names'],
            array_map(static fn (string $n): float => $t->number('p_'.$n)->values[$row], $want['names']),
        );
        foreach (['least_ambiguous' => Conformal::LEAST_AMBIGUOUS, 'adaptive' => Conformal::ADAPTIVE] as $name => $way) {
            $scores = array_map(
                static fn (int $r): float => Conformal::scores($chances($held, $r), $way)[(string) $held->column('actual')->text($r)],
                range(0, $held->rows - 1),
            );
            foreach ($want[$name] as $own) {
                $q = Conformal::quantile($scores, (int) round(100 * $own['level']));
                self::assertEqualsWithDelta($own['quantile'], $q, 1e-10);
                $sets = array_map(static fn (int $r): array => Conformal::set($chances($new, $r), $q, $way), range(0, $new->rows - 1));
                self::assertSame($own['sets'], $sets);
                self::assertSame(
                    $own['sets_filled'],
                    array_map(static fn (int $r): array => Conformal::filled($chances($new, $r), $q, $way), range(0, $new->rows - 1)),
                );
                self::assertCount($own['empty'], array_filter($sets, static fn (array $s): bool => [] === $s));
            }
        }
    }
}
