<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** Reads a program from its JSON alone, as somebody with nothing but the schema would: what the JSON form is proven with. */
final readonly class Reader
{
    /** @param array<string, mixed> $program as docs/schemas/program-1.json describes it */
    public function __construct(private array $program)
    {
    }

    /**
     * @param array<array-key, float|string|null> $record by input: numbers, dates as days since 1970, texts
     *
     * @return list<?float> in the order of the answers; null = none
     */
    public function answers(array $record): array
    {
        $values = [];
        foreach ($record as $name => $value) {
            $values[$name] = \is_float($value) && is_nan($value) ? null : $value;
        }
        /** @var list<list<array{name: string, is: array<string, mixed>}>> $layers */
        $layers = $this->program['layers'];
        foreach ($layers as $layer) {
            $made = [];
            foreach ($layer as $line) {
                $made[$line['name']] = $this->value($line['is'], $values);
            }
            $values = $made + $values;
        }
        /** @var array<string, string> $answers */
        $answers = $this->program['answers'];

        return array_values(array_map(static fn (string $name): ?float => \is_float($values[$name]) ? $values[$name] : null, $answers));
    }

    /**
     * @param array<string, mixed>                     $e
     * @param array<array-key, float|string|bool|null> $values
     */
    private function value(array $e, array $values): float|string|bool|null
    {
        return match (true) {
            isset($e['column']) && \is_string($e['column']) => $values[$e['column']] ?? null,
            \array_key_exists('constant', $e) => \is_int($e['constant']) ? (float) $e['constant'] : self::plain($e['constant']),
            isset($e['missing']) && \count($e) < 2 => null === $this->of($e['missing'], $values),
            isset($e['when']) => $this->of(true === $this->of($e['when'], $values) ? $e['then'] : $e['else'], $values),
            isset($e['lookup']) => $this->lookup($e, $values),
            isset($e['trees']) => $this->trees($e, $values),
            default => $this->operation($e, $values),
        };
    }

    /** @param array<array-key, float|string|bool|null> $values */
    private function of(mixed $e, array $values): float|string|bool|null
    {
        /** @var array<string, mixed> $e */
        return $this->value($e, $values);
    }

    private static function plain(mixed $v): float|string|null
    {
        return \is_string($v) ? $v : (is_numeric($v) ? (float) $v : null);
    }

    /**
     * @param array<string, mixed>                     $e
     * @param array<array-key, float|string|bool|null> $values
     */
    private function lookup(array $e, array $values): float|string|null
    {
        $of = $this->of($e['lookup'], $values);
        if (null === $of) {
            return self::plain($e['missing']);
        }
        /** @var list<array{string, float|int|string}> $pairs */
        $pairs = $e['pairs'];
        foreach ($pairs as [$text, $value]) {
            if ($text === (string) $of) {
                return self::plain($value);
            }
        }

        return self::plain($e['other']);
    }

    /**
     * @param array<string, mixed>                     $e
     * @param array<array-key, float|string|bool|null> $values
     */
    private function trees(array $e, array $values): float
    {
        /** @var array{trees: list<list<array<string, mixed>>>, start: float|int, columns: array<string, string>} $e */
        $sum = (float) $e['start'];
        foreach ($e['trees'] as $tree) {
            $node = $tree[0];
            while (isset($node['column'])) {
                /**
                 * @var array{
                 *     column: string, missing: string, left: int, right: int, texts?: list<string>, listed?: string,
                 *     up_to?: float|int|string,
                 * } $node
                 */
                $v = $values[$e['columns'][$node['column']]] ?? null;
                $goes = match (true) {
                    null === $v => 'left' === $node['missing'],
                    isset($node['texts']) => \in_array((string) $v, $node['texts'], true) === ('left' === ($node['listed'] ?? '')),
                    default => 'all' === ($node['up_to'] ?? 0)
                        || ('none' !== ($node['up_to'] ?? 0) && (float) $v <= (float) ($node['up_to'] ?? 0)),
                };
                $node = $tree[$goes ? $node['left'] : $node['right']];
            }
            $sum += is_numeric($node['value'] ?? null) ? (float) $node['value'] : 0.0;
        }

        return $sum;
    }

    /**
     * @param array<string, mixed>                     $e
     * @param array<array-key, float|string|bool|null> $values
     */
    private function operation(array $e, array $values): float|string|bool|null
    {
        /** @var list<array<string, mixed>> $of */
        $of = $e['of'];
        $v = array_map(fn (array $part): float|string|bool|null => $this->value($part, $values), $of);
        $operator = $e['operator'];
        if ('and' === $operator || 'or' === $operator) {
            return 'and' === $operator ? !\in_array(false, $v, true) : \in_array(true, $v, true);
        }
        if (\in_array(null, $v, true)) {
            return '<=' === $operator || '<' === $operator ? false : null;
        }
        if ('join' === $operator) {
            return implode('', array_map(strval(...), $v));
        }
        $n = array_map(floatval(...), $v);
        $out = match ($operator) {
            '+' => array_sum($n),
            '*' => array_product($n),
            '-' => $n[0] - $n[1],
            '/' => 0.0 === $n[1] ? \NAN : $n[0] / $n[1],
            'least' => min([\INF, ...$n]),
            'greatest' => max([-\INF, ...$n]),
            'exp' => exp($n[0]),
            'log' => $n[0] > 0.0 ? log($n[0]) : \NAN,
            'floor' => floor($n[0]),
            '<=' => $n[0] <= $n[1],
            '<' => $n[0] < $n[1],
            default => throw new \UnexpectedValueException('This program has an operator that is not known here.'),
        };

        return \is_bool($out) ? $out : (is_finite((float) $out) ? (float) $out : null);
    }
}
