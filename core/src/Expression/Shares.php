<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** Chances of several classes from their sums. */
final class Shares
{
    /**
     * @param list<Expression> $sums per class
     *
     * @return non-empty-list<Expression>
     */
    public static function of(array $sums): array
    {
        // The largest is taken from all of them, so that none overflows.
        $most = new Operation(Operator::Most, [] === $sums ? throw new \LogicException('There are no classes.') : $sums);
        $raised = array_map(static fn (Expression $s): Operation => Operation::of(
            Operator::Exp,
            Operation::of(Operator::Most, Operation::of(Operator::Less, $s, $most), new Constant(-700.0)),
        ), $sums);
        $out = [];
        foreach ($raised as $own) {
            $out[] = Operation::of(Operator::Over, $own, Operation::sum($raised));
        }

        return [] === $out ? throw new \LogicException('There are no classes.') : $out;
    }
}
