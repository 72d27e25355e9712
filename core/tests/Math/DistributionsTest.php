<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Math;

use Dokimos\Core\Math\Distribution\Binomial;
use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Math\Distribution\FisherF;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class DistributionsTest extends TestCase
{
    /** @return iterable<string, array{list<array{what: string, x: float|int, a: float|int|null, b: float|int|null, value: float|int}>, string}> */
    public static function distributions(): iterable
    {
        /** @var list<array{distribution: string, what: string, x: float|int, a: float|int|null, b: float|int|null, value: float|int}> $values */
        $values = Files::expected('distributions')['values'];
        $groups = [];
        foreach ($values as $v) {
            $groups[$v['distribution']][] = $v;
        }
        foreach ($groups as $name => $list) {
            yield $name => [$list, $name];
        }
    }

    /** @param list<array{what: string, x: float|int, a: float|int|null, b: float|int|null, value: float|int}> $values */
    #[DataProvider('distributions')]
    public function testEveryReferenceValueHolds(array $values, string $name): void
    {
        foreach ($values as $v) {
            $got = 'binomial' === $name ? self::binomial($v) : self::continuous($name, $v);
            $tolerance = ('quantile' === $v['what'] ? 1e-9 : 1e-10) * abs($v['value']) + 1e-300;
            self::assertLessThanOrEqual(
                $tolerance,
                abs($got - $v['value']),
                \sprintf('%s %s of %s (%s, %s): expected %s, got %s', $name, $v['what'], $v['x'], $v['a'], $v['b'], $v['value'], $got),
            );
        }
    }

    /** @param array{what: string, x: float|int, a: float|int|null, b: float|int|null, value: float|int} $v */
    private static function binomial(array $v): float|int
    {
        $d = new Binomial((int) $v['a'], (float) $v['b']);

        return match ($v['what']) {
            'pmf' => $d->pmf((int) $v['x']),
            'cdf' => $d->cdf((int) $v['x']),
            'upper' => $d->upper((int) $v['x']),
            default => $d->quantile((float) $v['x']),
        };
    }

    /** @param array{what: string, x: float|int, a: float|int|null, b: float|int|null, value: float|int} $v */
    private static function continuous(string $name, array $v): float
    {
        $d = match ($name) {
            'normal' => new Normal(),
            't' => new StudentT((float) $v['a']),
            'chisquare' => new ChiSquare((float) $v['a']),
            default => new FisherF((float) $v['a'], (float) $v['b']),
        };

        return match ($v['what']) {
            'cdf' => $d->cdf((float) $v['x']),
            'upper' => $d->upper((float) $v['x']),
            'pdf' => $d->pdf((float) $v['x']),
            default => $d->quantile((float) $v['x']),
        };
    }

    public function testQuantilesComeBackThroughTheDistribution(): void
    {
        foreach ([new StudentT(4.5), new ChiSquare(7), new FisherF(3, 11)] as $d) {
            foreach ([0.001, 0.2, 0.5, 0.8, 0.999] as $p) {
                self::assertEqualsWithDelta($p, $d->cdf($d->quantile($p)), 1e-12);
            }
        }
    }
}
