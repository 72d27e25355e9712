<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Combine\Combinations;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\Remarks;
use Dokimos\Core\Decide\ScoredList;
use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** Matches columns, starts batches, pages and writes their results. */
final readonly class Scorings
{
    private const QUICK_ROWS = 50000;

    public function __construct(
        private EntityManagerInterface $entities,
        private OpenCells $reader,
        private Judgments $judgments,
        private Combinations $combinations,
        private Jobs $jobs,
        private ScoredTables $scored,
        private Logbook $logbook,
        private Ground $ground,
    ) {
    }

    /** @param array<string, string> $hand */
    public function match(Trial $trial, DataTable $table, array $hand): MatchView
    {
        $model = $this->judgments->model($trial);
        $kinds = [];
        foreach ($table->columns() as $column) {
            $kinds[$column->name()] = $column->kind();
        }
        $lines = ColumnMatch::of($model->asked, $kinds, $hand);
        $matching = self::matching($lines);
        $raw = $this->reader->table($table, array_values($matching));
        $selected = $model->select($raw, $matching);
        $fitted = $trial->question()->table();
        $lacking = [] !== array_filter($lines, static fn (array $l) => null === $l['found']);
        $combination = null !== $fitted && $lacking ? $this->combinations->leadingTo($fitted, $table) : null;
        $problems = $views = [];
        foreach ($lines as $line) {
            if (null !== $line['problem']) {
                $problems[] = $line['problem'];
            }
            $column = $selected->column($line['asked']);
            $first = [];
            for ($row = 0; $row < min(3, $table->rows()); ++$row) {
                $first[] = $column->text($row);
            }
            $views[] = new MatchLine(
                $line['asked'],
                $line['kind'],
                $line['found'],
                $line['foundKind'],
                $line['how'],
                $line['problem'],
                $first,
                $column->missing(),
            );
        }
        array_push(
            $problems,
            ...Remarks::spelled($model->spellings($raw, $matching)),
            ...array_map(Remarks::unseen(...), $model->unseen($selected)),
        );
        $answers = $model->answers($selected);
        $unscorable = \count(array_filter(range(0, $selected->rows - 1), static fn (int $row): bool => !$answers->isKnown($row)));
        if ($unscorable > 0) {
            $problems[] = \sprintf(
                '%s of %s records have a missing value that no step fills; they are listed as not scored.',
                number_format($unscorable),
                number_format($table->rows()),
            );
        }

        return new MatchView(
            $trial->id(),
            $table->id(),
            $table->rows(),
            $views,
            $problems,
            array_map(strval(...), array_keys($kinds)),
            $unscorable,
            $combination,
        );
    }

    /**
     * @param list<array{asked: string, kind: string, found: ?string, foundKind: ?string, how: string, problem: ?string}> $lines
     *
     * @return array<string, string>
     */
    private static function matching(array $lines): array
    {
        $matching = [];
        foreach ($lines as $line) {
            if (null !== $line['found']) {
                $matching[$line['asked']] = $line['found'];
            }
        }

        return $matching;
    }

    /** @param array<string, string> $hand */
    public function start(Study $study, User $user, Trial $trial, DataTable $table, array $hand, float $cutoff): Job
    {
        if ($trial->study() !== $study || $table->study() !== $study || !$table->isReady()) {
            throw Problem::notFound('trial or table');
        }
        if ($cutoff <= 0.0 || $cutoff > 1.0) {
            throw Problem::invalid('A cut-off lies above 0 and not above 100%.', 'cutoff');
        }
        $kinds = [];
        foreach ($table->columns() as $column) {
            $kinds[$column->name()] = $column->kind();
        }
        $model = $this->judgments->inUse($trial);
        $matching = self::matching(ColumnMatch::of($model->asked, $kinds, $hand));
        $scoring = new Scoring(
            $study,
            $trial,
            $table,
            $matching,
            $cutoff,
            ['target' => $model->target, 'event' => $model->event, 'task' => $model->task, 'classes' => $model->classes()],
            null !== $trial->handed(),
        );
        $scoring->answerIn(ScoredTables::begin($scoring));
        $this->entities->persist($scoring);
        $this->entities->flush();
        $job = $this->jobs->start(
            $study,
            $user,
            ScoringRunner::KIND,
            $scoring->id(),
            \sprintf('Scoring %s', $table->name()),
            $table->rows() <= self::QUICK_ROWS ? Jobs::QUICK : Jobs::LONG,
            ScoringRunner::pieces($table),
        );
        $this->entities->flush();

        return $job;
    }

    public function view(Scoring $scoring): ScoringView
    {
        $summary = $scoring->summary() + [
            'histogram' => array_fill(0, 40, 0),
            'expected' => 0.0,
            'classes' => [],
            'lowest' => null,
            'highest' => null,
            'mean' => null,
        ];
        $float = static fn (float|int|null $v): ?float => null === $v ? null : (float) $v;
        $classes = array_map(
            static fn (string $class): ScoredClassView => new ScoredClassView($class, $summary['classes'][$class] ?? 0),
            $scoring->classes(),
        );
        $trial = $scoring->trial();
        $table = $scoring->table();

        return new ScoringView(
            $scoring->id(),
            $scoring->study()->id(),
            $trial->id(),
            $trial->number(),
            Learners::title($trial->learner()),
            $scoring->isByHanded(),
            $table->id(),
            $table->name(),
            $scoring->cutoff(),
            $scoring->state(),
            $table->rows(),
            $scoring->scored(),
            $scoring->called(),
            (float) $summary['expected'],
            $scoring->event(),
            $summary['histogram'],
            array_map(static fn (TableColumn $c) => $c->name(), $table->columns()),
            $scoring->createdAt()->format(\DATE_ATOM),
            $scoring->task(),
            $scoring->target(),
            $classes,
            $float($summary['lowest']),
            $float($summary['highest']),
            $float($summary['mean']),
        );
    }

    /**
     * @param 'all'|'called'|'left'|'unscored' $which
     * @param list<string>                     $carry
     */
    public function rows(
        Scoring $scoring,
        string $which,
        string $sort,
        bool $descending,
        string $search,
        int $offset,
        int $limit,
        array $carry,
        ?string $class = null,
    ): ScoredRowsView {
        if (!$scoring->isDone()) {
            return new ScoredRowsView(0, $offset, [], []);
        }
        $cutoff = Task::TWO === $scoring->task() ? CutOff::at($scoring->cutoff()) : null;
        $offset = max(0, $offset);
        $limit = max(1, min(200, $limit));
        $table = $scoring->table();
        [$total, $page] = $this->picked($scoring, $which, $sort, $descending, $search, $class, $offset, $limit);
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
     * @return array{int, list<int>} how many records there are, and those of the page
     */
    private function picked(
        Scoring $scoring,
        string $which,
        string $sort,
        bool $descending,
        string $search,
        ?string $class,
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
        $picked = array_values(array_filter($order, static fn (int $row): bool => $keep($row)));
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

    /**
     * The result as CSV lines, as the command line writes them.
     *
     * @param list<string> $carry
     * @param bool         $full  numbers with every digit
     * @param bool         $sure  how sure each answer is, in columns of its own
     *
     * @return \Generator<int, string>
     */
    public function csv(Scoring $scoring, array $carry, bool $full = false, bool $sure = false): \Generator
    {
        if (!$scoring->isDone()) {
            throw new Problem(409, 'This batch has not been scored to the end.');
        }
        $table = $scoring->table();
        $names = array_values(array_filter(
            array_map(static fn (TableColumn $c): string => $c->name(), $table->columns()),
            static fn (string $name): bool => \in_array($name, $carry, true),
        ));
        $form = new ScoredList(
            $scoring->columns(),
            Task::TWO === $scoring->task() ? CutOff::at($scoring->cutoff()) : null,
            $full,
            $sure ? $this->sure($scoring->trial()) : null,
        );
        yield CsvWriter::line($form->header($names));
        $because = $scoring->because()['sentences'] ?? [];
        $row = 0;
        foreach ($this->scored->stream($scoring) as $frame => $lines) {
            $columns = array_values($this->reader->part($table, $names, $frame, 1)->columns());
            foreach ($lines as $i => $line) {
                ++$row;
                $line['reasons'] = $because[$row] ?? $line['reasons'];
                yield CsvWriter::line($form->cells(array_map(static fn (Column $c): ?string => $c->text($i), $columns), $line));
            }
        }
    }

    /** @throws Problem when the rows that answers were judged on have changed since */
    public function sure(Trial $trial): Sure
    {
        $this->judgments->onItsRows($trial);
        [, $outcome] = $this->ground->open($trial->study(), []);

        return new Sure($trial->line()->task, $outcome, $trial->answers(), $trial->question()->classes());
    }

    public function noteDownload(Scoring $scoring, User $user): void
    {
        $this->logbook->write(
            $scoring->study(),
            $user,
            'decisions',
            \sprintf('Downloaded the scored list of %s, %s records.', $scoring->table()->name(), number_format($scoring->table()->rows())),
        );
        $this->entities->flush();
    }
}
