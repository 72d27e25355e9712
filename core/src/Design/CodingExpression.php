<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;

/** The sum of the terms of a regression, written out: what Coding::sums() works out. */
final class CodingExpression
{
    /** No value of a column is called so: what stands for it counts as never seen. */
    private const UNSEEN = "\0unseen";

    /** @param array<array-key, float> $coefficients by term */
    public static function sum(Coding $coding, Frame $frame, array $coefficients): Expression
    {
        $terms = [new Constant($coefficients['(intercept)'] ?? 0.0)];
        foreach ($coding->columns as $name) {
            $column = $frame->column($name);
            $terms[] = $column->isText ? self::category(
                $coding,
                $name,
                $column,
                $coefficients,
            ) : self::number($coding, $name, $column, $coefficients);
        }

        return Operation::sum($terms);
    }

    /** @param array<array-key, float> $coefficients */
    private static function category(Coding $coding, string $name, Named $column, array $coefficients): Lookup
    {
        $known = $coding->known($name);
        $effects = $coding->effectsOf(new CodedColumn([], [...$known, self::UNSEEN], Kind::Category), $name, $coefficients);
        $by = [];
        foreach ($known as $code => $level) {
            $by[$level] = $effects[$code];
        }

        return new Lookup($column, $by, $effects[\count($known)], is_nan($effects[-1]) ? null : $effects[-1]);
    }

    /** @param array<array-key, float> $coefficients */
    private static function number(Coding $coding, string $name, Named $column, array $coefficients): Expression
    {
        $bends = $coding->bends[$name] ?? null;
        $sum = self::times($coefficients[$name] ?? 0.0, $column);
        if (null !== $bends) {
            $more = [$sum];
            for ($j = 1; $j <= $bends->more(); ++$j) {
                $more[] = self::times($coefficients[(new Term($name, bend: $j))->name()] ?? 0.0, self::bend($bends, $j, $column));
            }
            $sum = Operation::sum($more);
        }
        $else = $coding->elseOf($name, $coefficients);

        return new When(new IsMissing($column), new Constant($else), $sum);
    }

    private static function times(float $by, Expression $of): Operation
    {
        return Operation::of(Operator::Times, new Constant($by), $of);
    }

    /** Bends::of(), piece by piece. */
    private static function bend(Bends $bends, int $term, Named $x): When
    {
        $k = \count($bends->knots);
        [$own, $last, $before] = [$bends->knots[$term - 1], $bends->knots[$k - 1], $bends->knots[$k - 2]];
        $scale = ($last - $bends->knots[0]) ** 2;
        $cube = static function (float $knot) use ($x): When {
            $over = Operation::of(Operator::Less, $x, new Constant($knot));

            return new When(
                Operation::of(Operator::UpTo, $x, new Constant($knot)),
                new Constant(0.0),
                Operation::of(Operator::Times, $over, $over, $over),
            );
        };
        $within = Operation::sum([
            self::times(1 / $scale, $cube($own)),
            self::times(-($last - $own) / ($last - $before) / $scale, $cube($before)),
        ]);
        $slope = 3 * (($last - $own) ** 2 - ($last - $before) * ($last - $own)) / $scale;
        $beyond = Operation::sum([
            new Constant($bends->of($term, $last)),
            self::times($slope, Operation::of(Operator::Less, $x, new Constant($last))),
        ]);

        return new When(Operation::of(Operator::UpTo, $x, new Constant($last)), $within, $beyond);
    }
}
