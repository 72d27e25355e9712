<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/** Records of one key gathered into a coarser one: counts, sums, means, smallest and largest, shares, the latest. */
final readonly class Gather implements Reshaping
{
    public const WAYS = ['count', 'sum', 'mean', 'min', 'max', 'share', 'latest'];

    /**
     * @param list<array{how: string, column?: string, value?: string, by?: string}> $figures share: of records where the column is the value; latest: by a date column
     *
     * @throws CannotCombine Choose what is gathered. "…" is no way to gather; choose one of …. "…" needs a column….
     */
    public function __construct(public string $key, public array $figures)
    {
        if ([] === $figures) {
            throw new CannotCombine('Choose what is gathered.');
        }
        foreach ($figures as $f) {
            if (!\in_array($f['how'], self::WAYS, true)) {
                throw new CannotCombine(\sprintf('"%s" is no way to gather; choose one of %s.', $f['how'], implode(', ', self::WAYS)));
            }
            if ('count' !== $f['how'] && '' === ($f['column'] ?? '') || 'share' === $f['how'] && '' === ($f['value'] ?? '') || 'latest' === $f['how'] && '' === ($f['by'] ?? '')) {
                throw new CannotCombine(\sprintf('"%s" needs a column%s.', $f['how'], ['share' => ' and a value', 'latest' => ' and a date'][$f['how']] ?? ''));
            }
        }
    }

    public function sentence(): string
    {
        return \sprintf('gathers the records of each %s: %s', $this->key, implode(', ', array_map(self::name(...), $this->figures)));
    }

    public function toll(Table $table, ?Table $other): CombineToll
    {
        $groups = $this->groups($table);
        $keyless = $table->rows - array_sum(array_map(\count(...), $groups));

        return new CombineToll($table->rows, \count($groups), \count($table->columns()), 1 + \count($this->figures), 0, $keyless, 0);
    }

    public function apply(Table $table, ?Table $other): Table
    {
        $groups = $this->groups($table);
        $columns = [$this->key => new TextColumn(array_map(strval(...), array_keys($groups)), Kind::Identifier)];
        foreach ($this->figures as $figure) {
            $name = $new = self::name($figure);
            for ($i = 2; isset($columns[$new]); ++$i) {
                $new = $name.'_'.$i;
            }
            $columns[$new] = $this->figure($table, $figure, array_values($groups));
        }

        return Table::of($columns, \count($groups));
    }

    public function origins(array $names): array
    {
        $origins = [$this->key => ['own' => [$this->key], 'other' => []]];
        foreach ($this->figures as $figure) {
            $name = $new = self::name($figure);
            for ($i = 2; isset($origins[$new]); ++$i) {
                $new = $name.'_'.$i;
            }
            $origins[$new] = ['own' => array_values(array_filter([$figure['column'] ?? '', $figure['by'] ?? ''])), 'other' => []];
        }

        return $origins;
    }

    public function toArray(): array
    {
        return ['kind' => 'gather', 'key' => $this->key, 'figures' => $this->figures];
    }

    /** @param array{how: string, column?: string, value?: string, by?: string} $figure */
    private static function name(array $figure): string
    {
        return match ($figure['how']) {
            'count' => 'records',
            'share' => \sprintf('share_%s_%s', $figure['column'] ?? '', preg_replace('/\W+/u', '_', $figure['value'] ?? '')),
            default => $figure['how'].'_'.($figure['column'] ?? ''),
        };
    }

    /** @return array<array-key, non-empty-list<int>> rows by key, in the order of their first record; records without a key are left out */
    private function groups(Table $table): array
    {
        $key = self::column($table, $this->key);
        $groups = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $text = $key->text($row);
            if (null !== $text) {
                $groups[$text][] = $row;
            }
        }

        return $groups;
    }

    /**
     * @param array{how: string, column?: string, value?: string, by?: string} $figure
     * @param list<non-empty-list<int>>                                        $groups
     */
    private function figure(Table $table, array $figure, array $groups): Column
    {
        if ('count' === $figure['how']) {
            return new NumberColumn(array_map(static fn (array $rows) => (float) \count($rows), $groups));
        }
        $column = self::column($table, $figure['column'] ?? '');
        if ('share' === $figure['how']) {
            return new NumberColumn(array_map(static fn (array $rows) => self::share($column, $rows, $figure['value'] ?? ''), $groups));
        }
        if ('latest' === $figure['how']) {
            $by = self::column($table, $figure['by'] ?? '');
            if (!$by instanceof DateColumn) {
                throw new CannotCombine(\sprintf('%s is no date: the latest cannot be told by it.', $figure['by'] ?? ''));
            }

            return $column->take(array_map(static fn (array $rows) => self::latest($by, $rows), $groups));
        }
        if ($column instanceof DateColumn && \in_array($figure['how'], ['min', 'max'], true)) {
            return new DateColumn(array_map(static function (array $rows) use ($column, $figure): int {
                $known = array_values(array_filter(array_map(static fn (int $r) => $column->seconds[$r], $rows), static fn (int $s) => DateColumn::MISSING !== $s));

                return [] === $known ? DateColumn::MISSING : ('min' === $figure['how'] ? min($known) : max($known));
            }, $groups));
        }
        if (!$column instanceof NumberColumn) {
            throw new CannotCombine(\sprintf('%s holds %s: there is no %s of it.', $figure['column'] ?? '', $column->kind()->value, $figure['how']));
        }

        return new NumberColumn(array_map(static function (array $rows) use ($column, $figure): float {
            $known = array_values(array_filter(array_map(static fn (int $r) => $column->values[$r], $rows), static fn (float $v) => !is_nan($v)));

            return [] === $known ? \NAN : match ($figure['how']) {
                'sum' => (float) array_sum($known),
                'mean' => array_sum($known) / \count($known),
                'min' => min($known),
                default => max($known),
            };
        }, $groups));
    }

    /** @param list<int> $rows */
    private static function share(Column $column, array $rows, string $value): float
    {
        $hits = $known = 0;
        foreach ($rows as $row) {
            $text = $column->text($row);
            $known += null === $text ? 0 : 1;
            $hits += $text === $value ? 1 : 0;
        }

        return 0 === $known ? \NAN : $hits / $known;
    }

    /** @param non-empty-list<int> $rows of equal dates the later record */
    private static function latest(DateColumn $by, array $rows): int
    {
        $best = $rows[0];
        foreach ($rows as $row) {
            if ($by->seconds[$row] >= $by->seconds[$best]) {
                $best = $row;
            }
        }

        return $best;
    }

    private static function column(Table $table, string $name): Column
    {
        return $table->has($name) ? $table->column($name) : throw new CannotCombine(\sprintf('There is no column %s.', $name));
    }
}
