<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** An expression on columns that are called otherwise. */
final class Renamed
{
    /** @param \Closure(string): string $name */
    public static function of(Expression $e, \Closure $name): Expression
    {
        $of = static fn (Expression $part): Expression => self::of($part, $name);
        $named = static fn (Named $n): Named => new Named($name($n->name), $n->isText);

        return match (true) {
            $e instanceof Named => $named($e),
            $e instanceof Operation => new Operation($e->operator, array_map($of, $e->of)),
            $e instanceof When => new When($of($e->condition), $of($e->then), $of($e->else)),
            $e instanceof IsMissing => new IsMissing($of($e->of)),
            $e instanceof Lookup => new Lookup($of($e->of), array_column($e->pairs, 1, 0), $e->other, $e->missing),
            $e instanceof Trees => new Trees($e->trees, $e->start, array_map($named, $e->columns)),
            default => $e,
        };
    }
}
