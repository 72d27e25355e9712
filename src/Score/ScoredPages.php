<?php

declare(strict_types=1);

namespace App\Score;

use App\Http\Problem;
use App\Question\OpenCells;
use App\Register\RowQuery;
use App\Register\Selections;
use App\Table\DataTable;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** A scored list a page at a time: narrowed, searched, sorted. */
final readonly class ScoredPages
{
    public function __construct(
        private OpenCells $reader,
        private ScoredTables $scored,
        private Selections $selections,
        private Doubtful $doubtful,
    ) {
    }

    /** @throws Problem where what is asked for does not fit the table */
    public function of(Scoring $scoring, ScoredQuery $query): ScoredRowsView
    {
        $offset = max(0, $query->offset);
        $limit = max(1, min(200, $query->limit));
        if (!$scoring->isDone()) {
            return new ScoredRowsView(0, $offset, [], []);
        }
        $cutoff = Task::TWO === $scoring->task() ? CutOff::at($scoring->cutoff()) : null;
        $table = $scoring->table();
        [$total, $page] = $this->picked($scoring, $query, $offset, $limit);
        $places = self::places($table, $query->carry);
        $cells = [] === $page ? [] : $this->reader->rows($table, $page);
        $lines = $this->scored->lines($scoring, $page);
        $because = $scoring->because()['sentences'] ?? [];
        $rows = [];
        foreach ($page as $row) {
            $l = $lines[$row];
            $rows[] = new ScoredRowView(
                $row + 1,
                $l['chance'],
                null === $l['chance'] ? null : $cutoff?->calls($l['chance']),
                $because[$row + 1] ?? $l['reasons'],
                $l['why'],
                array_map(static fn (int $p) => $cells[$row][$p], array_values($places)),
                $l['number'] ?? null,
                $l['class'] ?? null,
                $l['shares'] ?? [],
            );
        }

        return new ScoredRowsView($total, $offset, array_map(strval(...), array_keys($places)), $rows);
    }

    /** @return array{int, list<int>} how many records there are, and those of the page */
    private function picked(Scoring $scoring, ScoredQuery $query, int $offset, int $limit): array
    {
        [$which, $sort, $descending, $search] = [$query->which, $query->sort, $query->descending, $query->search];
        $narrowed = $query->hasBand() || null !== $query->class || '' !== $search || $query->hasConditions();
        $table = $scoring->table();
        $byAnswer = 'chance' === $sort;
        $column = $byAnswer ? null : $table->column($sort) ?? throw Problem::invalid(
            \sprintf('There is no column %s to sort by.', $sort),
            'sort',
        );
        // By answer and not searched through, a page is a part of the order that is kept: nothing else is read.
        [$first, $count] = match (true) {
            $narrowed => [null, 0],
            'all' === $which => [0, $table->rows()],
            'unscored' === $which => [$scoring->scored(), $table->rows() - $scoring->scored()],
            'called' === $which && Task::TWO === $scoring->task() => [0, $scoring->called()],
            'left' === $which && Task::TWO === $scoring->task() => [$scoring->called(), $scoring->scored() - $scoring->called()],
            default => [null, 0],
        };
        if ($byAnswer && null !== $first) {
            $most = max(0, min($limit, $count - $offset));
            $page = $this->scored->highestFirst($scoring, $descending ? $first + $offset : $first + $count - $offset - $most, $most);

            return [$count, $descending ? $page : array_reverse($page)];
        }
        $order = null === $column ? $this->scored->highestFirst($scoring) : $this->reader->order($column);
        $keep = $this->kept($scoring, $which, $query->class);
        $within = $query->hasBand() ? $this->scored->answers($scoring) : [];
        $fits = $query->hasConditions() ? $this->fitting($table, $query) : [];
        $picked = array_values(array_filter(
            $order,
            static fn (int $row): bool => $keep($row)
                && ([] === $within || $query->holds($within[$row]))
                && (!$query->hasConditions() || isset($fits[$row])),
        ));
        // Highest first is kept for answers, lowest first for columns.
        if ($byAnswer !== $descending) {
            $picked = array_reverse($picked);
        }
        if ('' !== $search) {
            $picked = $this->searched($table, $picked, $search);
        }

        return [\count($picked), \array_slice($picked, $offset, $limit)];
    }

    /** @return array<int, int> rows that answer the conditions, as keys */
    private function fitting(DataTable $table, ScoredQuery $query): array
    {
        $found = $this->selections->find($table, new RowQuery(where: $query->where, any: $query->any));

        return array_flip($found->page(0, $found->count));
    }

    /** @return \Closure(int): bool which records are meant */
    private function kept(Scoring $scoring, string $which, ?string $class): \Closure
    {
        $answers = $this->scored->answers($scoring);
        $isNumber = Task::NUMBER === $scoring->task();
        $cutoff = CutOff::at($scoring->cutoff());
        if ('all' === $which && null !== $class) {
            $classes = $this->scored->classes($scoring);
            $place = array_search($class, $scoring->classes(), true);

            return static fn (int $row): bool => ($classes[$row] ?? -1) === $place;
        }

        $doubtful = 'low' === $which ? array_flip($this->doubtful->rows($scoring)) : [];

        return match ($which) {
            'low' => static fn (int $row): bool => isset($doubtful[$row]),
            'called' => static fn (int $row): bool => !$isNumber && $cutoff->calls($answers[$row]),
            'left' => static fn (int $row): bool => !$isNumber && !is_nan($answers[$row]) && !$cutoff->calls($answers[$row]),
            'unscored' => static fn (int $row): bool => is_nan($answers[$row]),
            default => static fn (int $row): bool => true,
        };
    }

    /**
     * @param list<int> $rows
     *
     * @return list<int> the rows in which some cell holds the words
     */
    private function searched(DataTable $table, array $rows, string $search): array
    {
        $found = [];
        foreach ($this->reader->table($table)->columns() as $column) {
            foreach ($rows as $row) {
                if (!isset($found[$row]) && false !== mb_stripos((string) $column->text($row), $search)) {
                    $found[$row] = true;
                }
            }
        }

        return array_values(array_filter($rows, static fn (int $r) => isset($found[$r])));
    }

    /**
     * @param list<string> $carry
     *
     * @return array<string, int> name => place
     */
    private static function places(DataTable $table, array $carry): array
    {
        $places = [];
        foreach ($table->columns() as $place => $column) {
            if (\in_array($column->name(), $carry, true)) {
                $places[$column->name()] = $place;
            }
        }

        return $places;
    }
}
