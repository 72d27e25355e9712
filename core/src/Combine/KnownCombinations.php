<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

/** The kinds of combinations, as they are kept and sent. */
final class KnownCombinations
{
    /**
     * @param array<string, mixed> $data
     *
     * @throws CannotCombine Say the …. Columns are named by text. A combination looks up, gathers or draws. and more
     */
    public static function fromArray(array $data): Combination
    {
        $text = static fn (string $name): string => \is_string($data[$name] ?? null) && '' !== $data[$name] ? $data[$name] : throw new CannotCombine(\sprintf('Say the %s.', strtolower((string) preg_replace('/([A-Z])/', ' $1', $name))));
        if ('look up' === ($data['kind'] ?? null)) {
            $columns = $data['columns'] ?? null;

            return new LookUp($text('key'), $text('otherKey'), array_map(static fn (mixed $c) => \is_string($c) ? $c : throw new CannotCombine('Columns are named by text.'), \is_array($columns) ? array_values($columns) : []));
        }
        if ('draw' === ($data['kind'] ?? null)) {
            $whole = static function (string $name, int $usual) use ($data): int {
                $value = $data[$name] ?? $usual;

                return \is_int($value) ? $value : throw new CannotCombine(\sprintf('%s is a whole number.', ucfirst($name)));
            };

            return new Draw($whole('records', 0), $whole('seed', 2026));
        }
        if ('gather' !== ($data['kind'] ?? null)) {
            throw new CannotCombine('A combination looks up, gathers or draws.');
        }
        $figures = [];
        foreach (\is_array($data['figures'] ?? null) ? $data['figures'] : [] as $figure) {
            if (!\is_array($figure)) {
                throw new CannotCombine('A figure is said by how, and mostly a column.');
            }
            $said = array_filter(array_intersect_key($figure, array_flip(['how', 'column', 'value', 'by'])), static fn (mixed $v) => \is_string($v) && '' !== $v);
            /** @var array{how?: string, column?: string, value?: string, by?: string} $said */
            $figures[] = ['how' => $said['how'] ?? ''] + $said;
        }

        return new Gather($text('key'), $figures);
    }
}
