<?php

declare(strict_types=1);

namespace App\Score;

use App\Account\User;
use App\Approval\Approvals;
use App\Combine\Combinations;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Judgment\Judgments;
use App\Question\OpenCells;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\Remarks;
use Dokimos\Core\Learners\Learners;

/** Matches columns, starts batches, and tells of them. */
final readonly class Scorings
{
    private const QUICK_ROWS = 50000;

    public function __construct(
        private EntityManagerInterface $entities,
        private OpenCells $reader,
        private Judgments $judgments,
        private Combinations $combinations,
        private Jobs $jobs,
        private Doubtful $doubtful,
        private Approvals $approvals,
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
        $limits = null === $fitted ? null : Beyond::of($fitted, array_map(strval(...), array_keys($model->asked)));
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
            ...array_values($beyond = $limits?->summary($selected) ?? []),
        );
        $questions = [];
        foreach ($lines as $line) {
            $usual = null === $line['found'] ? $limits?->usual($line['asked']) : null;
            if (null !== $usual && null !== $line['problem']) {
                $questions[] = new QuestionView($line['asked'], $line['problem'], Beyond::MISSING, [Beyond::MISSING, Beyond::FILL], $usual);
            }
        }
        foreach ($beyond as $column => $says) {
            $questions[] = new QuestionView((string) $column, $says, Beyond::SCORE, [Beyond::SCORE, Beyond::HOLD, Beyond::LEAVE]);
        }
        foreach ($model->unseen($selected) as $new) {
            // Of a prepared column that is none of the records' own there is nothing to ask.
            if (isset($model->asked[$new['column']])) {
                $questions[] = new QuestionView($new['column'], Remarks::unseen($new), Beyond::SCORE, [Beyond::SCORE, Beyond::LEAVE]);
            }
        }
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
            $questions,
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

    /**
     * @param array<string, string> $hand
     * @param array<string, string> $answers by column what becomes of values beyond training
     */
    public function start(Study $study, User $user, Trial $trial, DataTable $table, array $hand, float $cutoff, array $answers = []): Job
    {
        $scoring = $this->begin($study, $trial, $table, $hand, $cutoff, $answers);
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

    /**
     * A batch that waits for its answers.
     *
     * @param array<string, string> $hand
     * @param array<string, string> $answers
     */
    public function begin(Study $study, Trial $trial, DataTable $table, array $hand, float $cutoff, array $answers = []): Scoring
    {
        if ([] !== array_diff($answers, Beyond::ANSWERS)) {
            throw Problem::invalid(\sprintf('An answer is one of: %s.', implode('; ', Beyond::ANSWERS)), 'answers');
        }
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
            [
                'target' => $model->target,
                'event' => $model->event,
                'task' => $model->task,
                'classes' => $model->classes(),
                'answers' => $answers,
            ],
            null !== $trial->handed(),
        );
        $scoring->answerIn(ScoredTables::begin($scoring));
        $this->entities->persist($scoring);
        $this->entities->flush();

        return $scoring;
    }

    /** @param bool $counted whether records of low confidence are counted: it reads the table */
    public function view(Scoring $scoring, bool $counted = false): ScoringView
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
            $counted ? $this->doubtful->count($scoring) : null,
            (object) $scoring->matching(),
            (object) $scoring->settled(),
            !$this->approvals->isApproved($trial),
        );
    }
}
