<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** What a step does, shown: some rows it changes, and how a column is spread before and after. */
final readonly class Look
{
    private const ROWS = 6;
    private const COLUMNS = 4;
    private const BINS = 24;

    /**
     * @param list<array{row: int, out: ?string, cells: list<array{column: string, before: ?string, after: ?string}>}> $rows    some of the rows that change
     * @param int                                                                                                      $changed cells of kept rows that change, in columns that stay
     * @param list<string>                                                                                             $made    columns that are new
     * @param list<string>                                                                                             $gone    columns that are no longer there
     * @param ?array{column: string, labels: list<string>, before: list<int>, after: list<int>}                        $spread  of the column that is shown
     */
    private function __construct(public array $rows, public int $changed, public array $made, public array $gone, public ?array $spread)
    {
    }

    public static function between(Prepared $before, Prepared $after): self
    {
        $made = array_values(array_diff($after->table->names(), $before->table->names()));
        $gone = array_values(array_diff($before->table->names(), $after->table->names()));
        $changing = [];
        $changed = 0;
        $rows = [];
        foreach ($after->table->columns() as $name => $column) {
            $was = $before->table->has((string) $name) ? $before->table->column((string) $name) : null;
            if (null === $was || $was === $column) {
                continue;
            }
            $here = 0;
            for ($row = 0; $row < $after->table->rows; ++$row) {
                if (!isset($after->out[$row]) && $was->text($row) !== $column->text($row)) {
                    ++$here;
                    if (\count($rows) < self::ROWS) {
                        $rows[$row] = true;
                    }
                }
            }
            $changed += $here;
            if ($here > 0) {
                $changing[] = (string) $name;
            }
        }
        foreach (array_keys(array_diff_key($after->out, $before->out)) as $row) {
            if (\count($rows) < self::ROWS) {
                $rows[$row] = true;
            }
        }
        $shown = \array_slice([...$changing, ...$made, ...([] === $changing && [] === $made ? $gone : [])], 0, self::COLUMNS);
        if ([] === $rows && [] !== $made) {
            // Nothing that was there changes: the first rows show what is new.
            $rows = \array_slice(array_fill(0, self::ROWS, true), 0, $after->table->rows);
        }
        $sample = [];
        foreach (array_keys($rows) as $row) {
            $sample[] = ['row' => $row, 'out' => $after->out[$row] ?? null, 'cells' => array_map(static fn (string $name) => ['column' => $name, 'before' => self::cell($before, $name, $row), 'after' => self::cell($after, $name, $row)], $shown)];
        }
        $first = $changing[0] ?? $made[0] ?? null;

        return new self($sample, $changed, $made, $gone, null === $first ? null : self::spread($before, $after, $first));
    }

    private static function cell(Prepared $table, string $name, int $row): ?string
    {
        $text = $table->table->has($name) ? $table->table->column($name)->text($row) : null;

        return null === $text ? null : mb_strimwidth($text, 0, 60, '…');
    }

    /** @return ?array{column: string, labels: list<string>, before: list<int>, after: list<int>} */
    private static function spread(Prepared $before, Prepared $after, string $name): ?array
    {
        $spread = Spread::of([$before, $after], $name, self::BINS);

        return null === $spread ? null : ['column' => $name, 'labels' => $spread->labels, 'before' => $spread->counts[0] ?? array_fill(0, \count($spread->labels), 0), 'after' => $spread->counts[1] ?? []];
    }
}
