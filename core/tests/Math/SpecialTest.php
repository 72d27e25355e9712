<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Math;

use Dokimos\Core\Math\Cholesky;
use Dokimos\Core\Math\Distribution\Binomial;
use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Math\Distribution\Continuous;
use Dokimos\Core\Math\Distribution\FisherF;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Math\NotPositiveDefinite;
use Dokimos\Core\Math\Special;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Identities that hold whatever the reference holds. */
final class SpecialTest extends TestCase
{
    private static function close(float $expected, float $got, float $relative, string $what): void
    {
        self::assertLessThanOrEqual($relative * max(abs($expected), 1e-300), abs($expected - $got), "$what: $expected and $got");
    }

    public function testLogGammaIsTheLogarithmOfFactorials(): void
    {
        $log = 0.0;
        for ($n = 1; $n <= 170; ++$n) {
            self::assertEqualsWithDelta($log, Special::logGamma((float) $n), 1e-13 * max(1.0, $log), "($n - 1)!");
            $log += log($n);
        }
        self::close(sqrt(\M_PI), exp(Special::logGamma(0.5)), 1e-13, 'half');
        foreach ([0.1, 0.3, 1.7, 5.25, 33.3] as $x) {
            self::assertEqualsWithDelta(log($x), Special::logGamma($x + 1) - Special::logGamma($x), 1e-12, "recurrence at $x");
        }
    }

    public function testStirlingsErrorMeetsItsDefinitionOnBothSidesOfTheSwitch(): void
    {
        foreach ([0.5, 1.0, 15.9, 16.0, 16.1, 40.0] as $n) {
            $direct = Special::logGamma($n + 1) - ($n + 0.5) * log($n) + $n - 0.5 * log(2 * \M_PI);
            self::assertEqualsWithDelta($direct, Special::stirlingError($n), 2e-13, (string) $n);
        }
    }

    public function testDevianceIsNeverNegativeAndMeetsItsDefinition(): void
    {
        foreach ([[1.0, 1.0], [1.0, 1.0001], [5.0, 5.4], [5.0, 50.0], [100.0, 99.0], [0.3, 0.9]] as [$x, $m]) {
            $d = Special::deviance($x, $m);
            self::assertGreaterThanOrEqual(0.0, $d);
            self::assertEqualsWithDelta($x * log($x / $m) + $m - $x, $d, 1e-12 * max(1.0, $d), "$x, $m");
        }
    }

    public function testTheTwoHalvesOfTheIncompleteGammaAddUp(): void
    {
        foreach ([0.1, 0.5, 1.0, 3.7, 20.0, 150.0] as $a) {
            foreach ([0.01, 0.5, 1.0, 4.0, 19.0, 25.0, 160.0] as $x) {
                self::assertEqualsWithDelta(1.0, Special::gammaP($a, $x) + Special::gammaQ($a, $x), 2e-14, "$a, $x");
            }
            self::assertSame([0.0, 1.0], [Special::gammaP($a, 0.0), Special::gammaQ($a, -1.0)]);
        }
        foreach ([0.2, 1.0, 7.5] as $x) {
            self::close(exp(-$x), Special::gammaQ(1.0, $x), 1e-13, 'with a = 1 it is exponential');
        }
    }

    public function testTheIncompleteBetaIsSymmetricAndSumsTheBinomial(): void
    {
        foreach ([[0.5, 0.5], [2.0, 3.0], [30.0, 4.5], [0.1, 8.0]] as [$a, $b]) {
            foreach ([0.001, 0.2, 0.5, 0.77, 0.999] as $x) {
                self::assertEqualsWithDelta(
                    1.0,
                    Special::beta($x, 1 - $x, $a, $b) + Special::beta(1 - $x, $x, $b, $a),
                    1e-13,
                    "$a, $b, $x",
                );
            }
            self::assertSame([0.0, 1.0], [Special::beta(0.0, 1.0, $a, $b), Special::beta(1.0, 0.0, $a, $b)]);
        }
        $binomial = new Binomial(12, 0.3);
        $sum = 0.0;
        for ($k = 0; $k <= 12; ++$k) {
            $sum += $binomial->pmf($k);
            self::assertEqualsWithDelta($sum, $binomial->cdf($k), 1e-13, "up to $k");
            self::assertEqualsWithDelta(1 - $sum, $binomial->upper($k), 1e-13, "above $k");
        }
        self::assertEqualsWithDelta(1.0, $sum, 1e-13);
    }

    public function testTermsAtTheirEnds(): void
    {
        self::assertSame([1.0, 0.0], [Special::binomialTerm(0, 5, 0.0, 1.0), Special::binomialTerm(1, 5, 0.0, 1.0)]);
        self::assertSame([1.0, 0.0], [Special::binomialTerm(5, 5, 1.0, 0.0), Special::binomialTerm(4, 5, 1.0, 0.0)]);
        self::close(0.7 ** 5, Special::binomialTerm(0, 5, 0.3, 0.7), 1e-14, 'none');
        self::close(0.3 ** 5, Special::binomialTerm(5, 5, 0.3, 0.7), 1e-14, 'all');
        self::close(exp(-2.5), Special::poissonTerm(0.0, 2.5), 1e-15, 'no arrival');
        self::close(exp(-2.5) * 2.5 ** 3 / 6, Special::poissonTerm(3.0, 2.5), 1e-14, 'three arrivals');
    }

    /** @return iterable<string, array{Continuous, bool}> distribution, symmetric about 0 */
    public static function distributions(): iterable
    {
        yield 'normal' => [new Normal(), true];
        yield 't, 1' => [new StudentT(1), true];
        yield 't, 4.5' => [new StudentT(4.5), true];
        yield 't, 200' => [new StudentT(200), true];
        yield 'chi-square, 1' => [new ChiSquare(1), false];
        yield 'chi-square, 7' => [new ChiSquare(7), false];
        yield 'F, 3 and 12' => [new FisherF(3, 12), false];
        yield 'F, 20 and 2' => [new FisherF(20, 2), false];
    }

    #[DataProvider('distributions')]
    public function testADistributionRisesEndsAtOneAndIsTheIntegralOfItsDensity(Continuous $d, bool $symmetric): void
    {
        $before = 0.0;
        foreach ([0.01, 0.1, 0.5, 1.0, 2.0, 5.0, 20.0] as $x) {
            $p = $d->cdf($x);
            self::assertGreaterThanOrEqual($before, $p);
            self::assertEqualsWithDelta(1.0, $p + $d->upper($x), 1e-13);
            $before = $p;
            $h = 1e-5 * $x;
            self::assertEqualsWithDelta(
                $d->pdf($x),
                ($d->cdf($x + $h) - $d->cdf($x - $h)) / (2 * $h),
                1e-6 * max(1.0, $d->pdf($x)),
                "density at $x",
            );
            if ($symmetric) {
                self::assertEqualsWithDelta($d->cdf(-$x), $d->upper($x), 1e-15);
            }
        }
        foreach ([1e-6, 0.025, 0.5, 0.9, 0.9999] as $p) {
            self::assertEqualsWithDelta($p, $d->cdf($d->quantile($p)), 1e-11, "quantile of $p");
        }
        self::assertLessThan(1e-3, $d->upper(1e6));
    }

    public function testManyDegreesOfFreedomMakeTNormal(): void
    {
        foreach ([-2.0, 0.3, 1.96] as $x) {
            self::assertEqualsWithDelta((new Normal())->cdf($x), (new StudentT(1e7))->cdf($x), 1e-7);
        }
        self::assertEqualsWithDelta(0.05, (new Normal())->twoSided(Normal::Z95), 1e-15);
        self::assertEqualsWithDelta((new StudentT(9))->twoSided(2.1), (new FisherF(1, 9))->upper(2.1 ** 2), 1e-13, 't squared is F');
    }

    /** @return iterable<string, array{int}> */
    public static function sizes(): iterable
    {
        foreach ([1, 2, 5, 12, 30] as $n) {
            yield "$n" => [$n];
        }
    }

    /**
     * @param array<int, array<int, float>> $rows
     *
     * @return list<list<float>> the sums of products of their columns, with something added on the diagonal
     */
    private static function products(array $rows, float $ridge): array
    {
        $out = [];
        foreach (array_keys($rows[0]) as $i) {
            $line = [];
            foreach (array_keys($rows[0]) as $j) {
                $line[] = array_sum(array_map(static fn (array $r) => $r[$i] * $r[$j], $rows)) + ($i === $j ? $ridge : 0.0);
            }
            $out[] = $line;
        }

        return $out;
    }

    #[DataProvider('sizes')]
    public function testAFactorSolvesAndInverts(int $n): void
    {
        mt_srand($n);
        $root = [];
        for ($i = 0; $i < $n + 3; ++$i) {
            for ($j = 0; $j < $n; ++$j) {
                $root[$i][$j] = mt_rand() / mt_getrandmax() - 0.5;
            }
        }
        $a = self::products($root, 0.1);
        $b = array_map(static fn (int $i) => sin($i + 1), range(0, $n - 1));
        $cholesky = Cholesky::of($a);
        $x = $cholesky->solve($b);
        $inverse = $cholesky->inverse();
        for ($i = 0; $i < $n; ++$i) {
            self::assertEqualsWithDelta($b[$i], array_sum(array_map(static fn (float $u, float $v) => $u * $v, $a[$i], $x)), 1e-10);
            for ($j = 0; $j < $n; ++$j) {
                self::assertEqualsWithDelta(
                    $i === $j ? 1.0 : 0.0,
                    array_sum(array_map(static fn (float $u, array $row) => $u * $row[$j], $a[$i], $inverse)),
                    1e-9,
                );
                self::assertEqualsWithDelta($inverse[$j][$i], $inverse[$i][$j], 1e-11);
            }
        }
        self::assertSame([], Cholesky::dependent($a));
    }

    public function testColumnsThatRepeatOthersAreFound(): void
    {
        // Columns: 1, x, 2x + 1, y, a column of zeros.
        $rows = [
            [1.0, 2.0, 5.0, 3.0, 0.0],
            [1.0, 4.0, 9.0, -1.0, 0.0],
            [1.0, -1.0, -1.0, 2.0, 0.0],
            [1.0, 0.5, 2.0, 8.0, 0.0],
            [1.0, 7.0, 15.0, 0.0, 0.0],
        ];
        $a = self::products($rows, 0.0);
        self::assertSame([2, 4], Cholesky::dependent($a));
        $this->expectException(NotPositiveDefinite::class);
        Cholesky::of($a);
    }

    public function testWhatIsNoNumberIsNoMatrix(): void
    {
        foreach ([[[-1.0]], [[0.0]], [[\NAN]], [[\INF]], [[1.0], [2.0, 1.0]]] as $bad) {
            try {
                Cholesky::of($bad);
                self::fail(json_encode($bad, \JSON_PARTIAL_OUTPUT_ON_ERROR).' was factored.');
            } catch (NotPositiveDefinite $e) {
                self::assertStringContainsString('not positive', $e->getMessage());
            }
        }
    }
}
