<?php

declare(strict_types=1);

namespace App\Score;

use App\Http\Problem;
use App\Question\OpenCells;
use App\Table\DataTable;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** A scored list a page at a time: narrowed, searched, sorted. */
final readonly class ScoredPages
{
    public function __construct(private OpenCells $reader, private ScoredTables $scored)
    {
    }

    /**
     * @param 'all'|'called'|'left'|'unscored' $which
     * @param list<string>                     $carry
     * @param array{float, float}|null         $band  of answers, both ends with it
     */
    public function of(
        Scoring $scoring,
        string $which,
        string $sort,
        bool $descending,
        string $search,
        int $offset,
        int $limit,
        array $carry,
        ?string $class = null,
        ?array $band = null,
    ): ScoredRowsView {
        if (!$scoring->isDone()) {
            return new ScoredRowsView(0, $offset, [], []);
        }
        $cutoff = Task::TWO === $scoring->task() ? CutOff::at($scoring->cutoff()) : null;
        $offset = max(0, $offset);
        $limit = max(1, min(200, $limit));
        $table = $scoring->table();
        [$total, $page] = $this->picked($scoring, $which, $sort, $descending, $search, $class, $band, $offset, $limit);
        $places = self::places($table, $carry);
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

    /**
     * @param array{float, float}|null $band
     *
     * @return array{int, list<int>} how many records there are, and those of the page
     */
    private function picked(
        Scoring $scoring,
        string $which,
        string $sort,
        bool $descending,
        string $search,
        ?string $class,
        ?array $band,
        int $offset,
        int $limit,
    ): array {
        $table = $scoring->table();
        $byAnswer = 'chance' === $sort;
        $column = $byAnswer ? null : $table->column($sort) ?? throw Problem::invalid(
            \sprintf('There is no column %s to sort by.', $sort),
            'sort',
        );
        // By answer and not searched through, a page is a part of the order that is kept: nothing else is read.
        [$first, $count] = match (true) {
            null !== $band => [null, 0],
            'all' === $which && null === $class => [0, $table->rows()],
            'unscored' === $which => [$scoring->scored(), $table->rows() - $scoring->scored()],
            'called' === $which && Task::TWO === $scoring->task() => [0, $scoring->called()],
            'left' === $which && Task::TWO === $scoring->task() => [$scoring->called(), $scoring->scored() - $scoring->called()],
            default => [null, 0],
        };
        if ($byAnswer && null !== $first && '' === $search) {
            $most = max(0, min($limit, $count - $offset));
            $page = $this->scored->highestFirst($scoring, $descending ? $first + $offset : $first + $count - $offset - $most, $most);

            return [$count, $descending ? $page : array_reverse($page)];
        }
        $order = null === $column ? $this->scored->highestFirst($scoring) : $this->reader->order($column);
        $keep = $this->kept($scoring, $which, $class);
        $within = null === $band ? [] : $this->scored->answers($scoring);
        $picked = array_values(array_filter(
            $order,
            static fn (int $row): bool => $keep($row) && (null === $band || $within[$row] >= $band[0] && $within[$row] <= $band[1]),
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

        return match ($which) {
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
