<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Picture;

use Dokimos\Core\Picture\Operand;
use Dokimos\Core\Picture\Strength;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use PHPUnit\Framework\TestCase;

/** Millions of pairs are looked through by a quick figure: it has to be near the one that is measured in the end. */
final class StrengthTest extends TestCase
{
    public function testTheQuickFigureIsNearTheRankCorrelation(): void
    {
        mt_srand(12);
        $normal = static fn (): float => sqrt(-2 * log(mt_rand(1, 1 << 30) / (1 << 30))) * cos(2 * \M_PI * mt_rand() / mt_getrandmax());
        foreach ([0.0, 0.1, 0.3, 0.5] as $missing) {
            foreach ([-0.95, -0.5, 0.0, 0.3, 0.8, 0.99] as $rho) {
                $x = $y = [];
                for ($i = 0; $i < 300; ++$i) {
                    $u = $normal();
                    $v = $rho * $u + sqrt(1 - $rho * $rho) * $normal();
                    // Rounded, so that there are ties; one of them missing more often where the other is large.
                    $x[] = mt_rand() / mt_getrandmax() < $missing ? \NAN : round($u, 1);
                    $y[] = mt_rand() / mt_getrandmax() < $missing * ($u > 0.5 ? 1.5 : 0.8) ? \NAN : exp($v);
                }
                [$a, $b] = [Operand::of('x', new NumberColumn($x)), Operand::of('y', new NumberColumn($y))];
                $near = Strength::near($a->places(), $b->places()) ?? self::fail('Both vary.');
                self::assertEqualsWithDelta(Strength::near($b->places(), $a->places()), $near, 1e-12);
                $measured = Association::spearman($x, $y)['rho'];
                self::assertEqualsWithDelta($measured, $near, 0.0 === $missing ? 1e-9 : 0.05, "$missing missing, $rho");
            }
        }
    }

    public function testWhatHasNoFigureHasNone(): void
    {
        $places = static fn (float ...$values): array => Operand::of('v', new NumberColumn(array_values($values)))->places();
        self::assertNull(Strength::near($places(1.0, 2.0, \NAN), $places(\NAN, \NAN, 3.0)), 'no row has both');
        self::assertNull(Strength::near($places(1.0, 1.0, 1.0), $places(1.0, 2.0, 3.0)), 'one of them does not vary');
        self::assertNull(Strength::near($places(), $places()));
        self::assertSame([], Operand::of('c', new CodedColumn([0, 1], ['a', 'b']))->places());
    }
}
