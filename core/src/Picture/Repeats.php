<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Table\Table;

/** Records that are equal in some columns: all of them (full), or chosen ones (near). */
final readonly class Repeats
{
    private const MOST_GROUPS = 50;
    private const MOST_ROWS = 40;

    /**
     * @param list<string>                                                         $columns  in which the records are equal
     * @param int                                                                  $groups   how often the same occurs more than once
     * @param int                                                                  $repeated records that have an equal one
     * @param int                                                                  $more     records that would go if one of each group stayed
     * @param list<array{times: int, groups: int}>                                 $sizes    how many groups of how many equal records, from small to large
     * @param list<array{records: int, rows: list<int>, cells: list<string|null>}> $examples the largest groups first, with their rows and what they share
     */
    private function __construct(public array $columns, public int $records, public int $groups, public int $repeated, public int $more, public array $sizes, public array $examples)
    {
    }

    /**
     * Records in which every chosen cell is missing are not called equal.
     *
     * @param ?list<string> $columns all when null
     */
    public static function of(Table $table, ?array $columns = null): self
    {
        $columns ??= $table->names();
        $cells = array_map($table->column(...), $columns);
        $groups = [];
        for ($row = 0; $row < $table->rows && [] !== $cells; ++$row) {
            $texts = [];
            $known = false;
            foreach ($cells as $column) {
                $text = $column->text($row);
                $known = $known || null !== $text;
                $texts[] = $text ?? "\0";
            }
            if ($known) {
                // 128 bits: two different records that hash alike are not to be expected.
                $groups[hash('xxh128', implode("\1", $texts), true)][] = $row;
            }
        }
        $groups = array_values(array_filter($groups, static fn (array $rows) => \count($rows) > 1));
        usort($groups, static fn (array $a, array $b) => \count($b) <=> \count($a) ?: $a[0] <=> $b[0]);
        $sizes = array_count_values(array_map(\count(...), $groups));
        ksort($sizes);
        $repeated = array_sum(array_map(\count(...), $groups));

        return new self(
            $columns, $table->rows, \count($groups), $repeated, $repeated - \count($groups),
            array_map(static fn (int $times, int $count) => ['times' => $times, 'groups' => $count], array_keys($sizes), $sizes),
            array_map(static fn (array $rows) => ['records' => \count($rows), 'rows' => \array_slice($rows, 0, self::MOST_ROWS), 'cells' => array_map(static fn ($column) => $column->text($rows[0]), $cells)], \array_slice($groups, 0, self::MOST_GROUPS)),
        );
    }
}
