<?php

declare(strict_types=1);

namespace Dokimos\Core\Formula;

/** What formulas do with columns of values. Missing goes on: what is computed from a missing value is missing, unless it cannot matter. */
final class Operations
{
    /** @throws WrongFormula "…" cannot stand in a formula. */
    public static function unary(string $operator, Cells $a): Cells
    {
        if (\in_array($operator, ['not', '!'], true)) {
            self::must($a, Cells::YES_NO, 'not');

            return new Cells(Cells::YES_NO, array_map(static fn (mixed $v) => null === $v ? null : !$v, $a->values));
        }
        if (!\in_array($operator, ['-', '+'], true)) {
            throw new WrongFormula(\sprintf('"%s" cannot stand in a formula.', $operator));
        }
        self::must($a, Cells::NUMBER, $operator);

        return '+' === $operator ? $a : new Cells(Cells::NUMBER, array_map(static fn (mixed $v) => null === $v ? null : -(float) $v, $a->values));
    }

    /** @throws WrongFormula "…" cannot stand in a formula. */
    public static function binary(string $operator, Cells $a, Cells $b): Cells
    {
        return match ($operator) {
            '+', '-', '*', '/', '%', '**' => self::arithmetic($operator, $a, $b),
            '==', '===', '!=', '!==', '<', '<=', '>', '>=' => self::comparison($operator, $a, $b),
            'and', '&&' => self::both($a, $b),
            'or', '||' => self::unary('not', self::both(self::unary('not', $a), self::unary('not', $b))),
            'xor' => self::comparison('!=', self::yes($a, 'xor'), self::yes($b, 'xor')),
            '~' => self::joined($a, $b),
            'contains' => self::called('has', [$a, $b], \count($a->values)),
            'starts with' => self::called('begins', [$a, $b], \count($a->values)),
            default => throw new WrongFormula(\sprintf('"%s" cannot stand in a formula.', $operator)),
        };
    }

    private static function arithmetic(string $operator, Cells $a, Cells $b): Cells
    {
        self::must($a, Cells::NUMBER, $operator);
        self::must($b, Cells::NUMBER, $operator);
        $do = match ($operator) {
            '+' => static fn (float $x, float $y): float => $x + $y,
            '-' => static fn (float $x, float $y): float => $x - $y,
            '*' => static fn (float $x, float $y): float => $x * $y,
            // Nothing can be divided by zero: the result is missing, not endless.
            '/' => static fn (float $x, float $y): ?float => 0.0 == $y ? null : $x / $y,
            '%' => static fn (float $x, float $y): ?float => 0.0 == $y ? null : fmod($x, $y),
            default => static fn (float $x, float $y): float => $x ** $y,
        };
        $out = [];
        foreach ($a->values as $i => $x) {
            $y = $b->values[$i];
            $v = null === $x || null === $y ? null : $do((float) $x, (float) $y);
            $out[] = null !== $v && is_finite($v) ? $v : null;
        }

        return new Cells(Cells::NUMBER, $out);
    }

    private static function comparison(string $operator, Cells $a, Cells $b): Cells
    {
        // A text beside a date or a number is read as one: dates are written in quotes.
        [$a, $b] = [self::like($a, $b), self::like($b, $a)];
        if ($a->type !== $b->type) {
            throw new WrongFormula(\sprintf('%s and %s cannot be compared.', self::said($a), self::said($b)));
        }
        $do = match ($operator) {
            '==', '===' => static fn (int $c): bool => 0 === $c,
            '!=', '!==' => static fn (int $c): bool => 0 !== $c,
            '<' => static fn (int $c): bool => $c < 0,
            '<=' => static fn (int $c): bool => $c <= 0,
            '>' => static fn (int $c): bool => $c > 0,
            default => static fn (int $c): bool => $c >= 0,
        };
        $text = Cells::TEXT === $a->type;
        $out = [];
        foreach ($a->values as $i => $x) {
            $y = $b->values[$i];
            $out[] = null === $x || null === $y ? null : $do($text ? strcmp((string) $x, (string) $y) : $x <=> $y);
        }

        return new Cells(Cells::YES_NO, $out);
    }

    private static function like(Cells $a, Cells $b): Cells
    {
        if (Cells::TEXT !== $a->type || Cells::DATE !== $b->type) {
            return $a;
        }

        return self::called('date', [$a], \count($a->values));
    }

    /** Certain when one is "no", or both are known. */
    private static function both(Cells $a, Cells $b): Cells
    {
        self::yes($a, 'and');
        self::yes($b, 'and');
        $out = [];
        foreach ($a->values as $i => $x) {
            $y = $b->values[$i];
            $out[] = false === $x || false === $y ? false : (null === $x || null === $y ? null : true);
        }

        return new Cells(Cells::YES_NO, $out);
    }

    private static function joined(Cells $a, Cells $b): Cells
    {
        $rows = \count($a->values);
        [$a, $b] = [self::called('as_text', [$a], $rows), self::called('as_text', [$b], $rows)];
        $out = [];
        foreach ($a->values as $i => $x) {
            $y = $b->values[$i];
            $out[] = null === $x || null === $y ? null : $x.$y;
        }

        return new Cells(Cells::TEXT, $out);
    }

    public static function choose(Cells $if, Cells $then, Cells $else): Cells
    {
        self::yes($if, '?');
        [$then, $else] = self::alike($then, $else);
        $out = [];
        foreach ($if->values as $i => $yes) {
            $out[] = null === $yes ? null : ($yes ? $then->values[$i] : $else->values[$i]);
        }

        return new Cells($then->type, $out);
    }

    public static function firstKnown(Cells $a, Cells $b): Cells
    {
        [$a, $b] = self::alike($a, $b);
        $out = [];
        foreach ($a->values as $i => $x) {
            $out[] = $x ?? $b->values[$i];
        }

        return new Cells($a->type, $out);
    }

    /**
     * Both of one type; one that is missing everywhere takes that of the other.
     *
     * @return array{Cells, Cells}
     */
    private static function alike(Cells $a, Cells $b): array
    {
        if ($a->type === $b->type) {
            return [$a, $b];
        }
        $empty = static fn (Cells $c): bool => [] === array_filter($c->values, static fn (mixed $v) => null !== $v);

        return match (true) {
            $empty($a) => [new Cells($b->type, $a->values), $b],
            $empty($b) => [$a, new Cells($a->type, $b->values)],
            default => throw new WrongFormula(\sprintf('%s and %s cannot stand in one column.', self::said($a), self::said($b))),
        };
    }

    /**
     * @param list<Cells> $arguments
     *
     * @throws WrongFormula There is no function …. …() takes ….
     */
    public static function called(string $name, array $arguments, int $rows): Cells
    {
        [$types, $least, $result, $do] = Functions::all()[$name] ?? throw new WrongFormula(\sprintf('There is no function %s.', $name));
        if (\count($arguments) < $least || \count($arguments) > \count($types)) {
            throw new WrongFormula(\sprintf('%s() takes %s.', $name, $least === \count($types) ? (1 === $least ? 'one argument' : $least.' arguments') : \sprintf('%d to %d arguments', $least, \count($types))));
        }
        foreach ($arguments as $i => $cells) {
            if ('any' !== $types[$i]) {
                self::must($cells, $types[$i], $name.'()');
            }
        }
        $columns = array_column($arguments, 'values');
        /** @var list<float|string|int|bool|null> $out */
        $out = [];
        /** @var array<string, float|string|int|bool|null> $known */
        $known = [];
        for ($row = 0; $row < $rows; ++$row) {
            $values = [];
            $key = '';
            foreach ($columns as $column) {
                $v = $column[$row];
                if (null === $v) {
                    $out[] = null;
                    continue 2;
                }
                $values[] = $v;
                $key .= "\0".(\is_bool($v) ? (int) $v : $v);
            }
            // Cells repeat: what was computed once is looked up, as long as that stays small.
            if (\array_key_exists($key, $known)) {
                $out[] = $known[$key];
                continue;
            }
            $made = $do(...$values);
            \assert(null === $made || \is_scalar($made));
            $made = \is_float($made) && !is_finite($made) ? null : $made;
            if (\count($known) < 20000) {
                $known[$key] = $made;
            }
            $out[] = $made;
        }

        return new Cells($result, $out);
    }

    private static function yes(Cells $cells, string $for): Cells
    {
        self::must($cells, Cells::YES_NO, $for);

        return $cells;
    }

    private static function must(Cells $cells, string $type, string $for): void
    {
        // What is missing everywhere fits everything.
        if ($cells->type !== $type && [] !== array_filter($cells->values, static fn (mixed $v) => null !== $v)) {
            throw new WrongFormula(\sprintf('%s needs %s, not %s.', $for, self::named($type), self::named($cells->type)));
        }
    }

    private static function named(string $type): string
    {
        return match ($type) {
            Cells::NUMBER => 'a number',
            Cells::DATE => 'a date',
            Cells::TEXT => 'a text',
            default => 'yes or no',
        };
    }

    private static function said(Cells $cells): string
    {
        return ucfirst(self::named($cells->type));
    }
}
