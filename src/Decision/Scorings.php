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
use App\Question\OpenCells;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\Remarks;
use Dokimos\Core\Decide\ScoredList;
use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Learn\Learners;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** Matches columns, starts batches, pages and writes their results. */
final readonly class Scorings
{
    private const QUICK_ROWS = 50000;

    public function __construct(private EntityManagerInterface $entities, private OpenCells $reader, private Judgments $judgments, private Combinations $combinations, private Jobs $jobs, private Logbook $logbook)
    {
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
        $fitted = $trial->study()->table();
        $lacking = [] !== array_filter($lines, static fn (array $l) => null === $l['found']);
        $recipe = null !== $fitted && $lacking ? $this->combinations->leadingTo($fitted, $table) : null;
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
            $views[] = new MatchLine($line['asked'], $line['kind'], $line['found'], $line['foundKind'], $line['how'], $line['problem'], $first, $column->missing());
        }
        array_push($problems, ...Remarks::spelled($model->spellings($raw, $matching)), ...array_map(Remarks::unseen(...), $model->unseen($selected)));
        $answers = $model->answers($selected);
        $unscorable = \count(array_filter(range(0, $selected->rows - 1), static fn (int $row): bool => !$answers->isKnown($row)));
        if ($unscorable > 0) {
            $problems[] = \sprintf('%s of %s records have a missing value that no step fills; they are listed as not scored.', number_format($unscorable), number_format($table->rows()));
        }

        return new MatchView($trial->id(), $table->id(), $table->rows(), $views, $problems, array_map(strval(...), array_keys($kinds)), $unscorable, $recipe);
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
        $matching = self::matching(ColumnMatch::of($this->judgments->model($trial)->asked, $kinds, $hand));
        $scoring = new Scoring($study, $trial, $table, $matching, $cutoff);
        $this->entities->persist($scoring);
        $this->entities->flush();
        $job = $this->jobs->start($study, $user, ScoringRunner::KIND, $scoring->id(), \sprintf('Scoring %s', $table->name()), $table->rows() <= self::QUICK_ROWS ? Jobs::QUICK : Jobs::LONG, ['score' => []]);
        $this->entities->flush();

        return $job;
    }

    public function view(Scoring $scoring): ScoringView
    {
        $lines = $scoring->lines();
        $numbers = array_values(array_filter(array_map(static fn (array $l): ?float => isset($l['number']) ? (float) $l['number'] : null, $lines), is_float(...)));
        [$lowest, $highest] = [] === $numbers ? [0.0, 1.0] : [min($numbers), max($numbers)];
        $histogram = array_fill(0, 40, 0);
        $expected = 0.0;
        $classes = [];
        foreach ($lines as $line) {
            $value = isset($line['number']) ? ($highest > $lowest ? ($line['number'] - $lowest) / ($highest - $lowest) : 0.0) : $line['chance'];
            if (null !== $value) {
                ++$histogram[min(39, max(0, (int) floor(40 * $value)))];
                $expected += $line['chance'] ?? 0.0;
            }
            if (isset($line['class'])) {
                $classes[$line['class']] = ($classes[$line['class']] ?? 0) + 1;
            }
        }
        $study = $scoring->study();
        $scored = [];
        foreach (Task::MORE === $study->task() ? $study->classes() ?? [] : [] as $class) {
            $scored[] = new ScoredClassView($class, $classes[$class] ?? 0);
        }

        return new ScoringView($scoring->id(), $study->id(), $scoring->trial()->id(), $scoring->trial()->number(), Learners::title($scoring->trial()->learner()), $scoring->table()->id(), $scoring->table()->name(), $scoring->cutoff(), $scoring->state(), $scoring->table()->rows(), $scoring->scored(), $scoring->called(), $expected, (string) $study->event(), array_values($histogram), array_map(static fn (TableColumn $c) => $c->name(), $scoring->table()->columns()), $scoring->createdAt()->format(\DATE_ATOM), $study->task(), (string) $study->target(), $scored, [] === $numbers ? null : $lowest, [] === $numbers ? null : $highest, [] === $numbers ? null : array_sum($numbers) / \count($numbers));
    }

    /**
     * @param 'all'|'called'|'left'|'unscored' $which
     * @param list<string>                     $carry
     */
    public function rows(Scoring $scoring, string $which, string $sort, bool $descending, string $search, int $offset, int $limit, array $carry, ?string $class = null): ScoredRowsView
    {
        $lines = $scoring->lines();
        $cutoff = CutOff::at($scoring->cutoff());
        $picked = array_keys(array_filter($lines, static fn (array $l) => match ($which) {
            'called' => null !== $l['chance'] && $cutoff->calls($l['chance']),
            'left' => null !== $l['chance'] && !$cutoff->calls($l['chance']),
            'unscored' => null !== $l['why'],
            default => null === $class || ($l['class'] ?? null) === $class,
        }));
        $table = $scoring->table();
        if ('' !== $search) {
            $picked = $this->searched($table, $picked, $search);
        }
        if ('chance' === $sort) {
            $answer = static fn (int $row): float => (float) ($lines[$row]['number'] ?? $lines[$row]['chance'] ?? -\INF);
            usort($picked, static fn (int $a, int $b) => $answer($a) <=> $answer($b) ?: $b <=> $a);
        } else {
            $column = $table->column($sort) ?? throw Problem::invalid(\sprintf('There is no column %s to sort by.', $sort), 'sort');
            $place = array_flip($this->reader->order($column));
            usort($picked, static fn (int $a, int $b) => $place[$a] <=> $place[$b]);
        }
        $picked = $descending ? array_reverse($picked) : $picked;
        $page = \array_slice($picked, max(0, $offset), max(1, min(200, $limit)));
        $places = self::places($table, $carry);
        $cells = [] === $page ? [] : $this->reader->rows($table, $page);
        $rows = [];
        foreach ($page as $row) {
            $l = $lines[$row];
            $rows[] = new ScoredRowView($row + 1, $l['chance'], null === $l['chance'] || null === $scoring->study()->event() ? null : $cutoff->calls($l['chance']), $l['reasons'], $l['why'], array_map(static fn (int $p) => $cells[$row][$p], array_values($places)), $l['number'] ?? null, $l['class'] ?? null, $l['shares'] ?? []);
        }

        return new ScoredRowsView(\count($picked), $offset, array_map(strval(...), array_keys($places)), $rows);
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
     *
     * @return \Generator<int, string>
     */
    public function csv(Scoring $scoring, array $carry, bool $full = false): \Generator
    {
        $table = $this->reader->table($scoring->table(), $carry);
        $model = $this->judgments->model($scoring->trial());
        $form = new ScoredList($model, Task::TWO === $model->task ? CutOff::at($scoring->cutoff()) : null, $full);
        yield CsvWriter::line($form->header($table->names()));
        foreach ($scoring->lines() as $row => $line) {
            yield CsvWriter::line($form->cells(array_values(array_map(static fn (Column $c): ?string => $c->text($row), $table->columns())), $line));
        }
    }

    public function noteDownload(Scoring $scoring, User $user): void
    {
        $this->logbook->write($scoring->study(), $user, 'decisions', \sprintf('Downloaded the scored list of %s, %s records.', $scoring->table()->name(), number_format($scoring->table()->rows())));
        $this->entities->flush();
    }
}
