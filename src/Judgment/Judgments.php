<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Account\User;
use App\Http\Problem;
use App\Judgment\Section\Sections;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Question\Seal;
use App\Question\Veils;
use App\Table\TableColumn;
use App\Trial\Ancestry;
use App\Trial\Trial;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Tree\ShowsLeaves;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\TrialFigures;

/** Judges trials: figures, the records behind them, and the sealed rows when they are opened. */
final readonly class Judgments
{
    public function __construct(
        private Ground $ground,
        private OpenCells $reader,
        private Logbook $logbook,
        private EntityManagerInterface $entities,
        private Veils $veils,
        private Sections $sections,
        private Questions $questions,
    ) {
    }

    public function model(Trial $trial): ScoringModel
    {
        $model = $trial->model();
        if (!$trial->isDone() || null === $model) {
            throw new Problem(409, match ($trial->state()) {
                Trial::FAILED => \sprintf('Trial %d could not be fitted: %s', $trial->number(), $trial->failure() ?? ''),
                Trial::CANCELLED => \sprintf('Trial %d was cancelled.', $trial->number()),
                default => \sprintf('Trial %d is still being fitted.', $trial->number()),
            });
        }

        return ScoringModel::fromArray($model);
    }

    /** The model of a trial that predicts an event: what goes by a chance and a cut-off is there for no other. */
    public function ofEvent(Trial $trial, string $what): ScoringModel
    {
        $model = $this->model($trial);
        if (Task::TWO !== $model->task) {
            throw new Problem(
                409,
                \sprintf(
                    '%s where a study predicts an event; trial %d predicts %s.',
                    $what,
                    $trial->number(),
                    Task::NUMBER === $model->task ? 'a number' : 'one of several classes',
                ),
            );
        }

        return $model;
    }

    /** Answers are kept row by row: on another target or other rows they would be held against the wrong outcome. */
    public function onItsRows(Trial $trial): void
    {
        if (!Ancestry::onItsRows($trial)) {
            throw new Problem(
                409,
                \sprintf(
                    'The table, the target or the division of its rows has changed since trial %d was fitted, so its rows cannot be looked at one by one. Its figures are those of then; fit it again to see more.',
                    $trial->number(),
                ),
            );
        }
    }

    public function of(Trial $trial): JudgmentView
    {
        $scoring = $this->model($trial);

        return new JudgmentView(
            TrialView::of($trial),
            $trial->question()->target(),
            $trial->question()->event(),
            self::cutoff($scoring),
            $trial->inputs(),
            $trial->line()->unanswered,
            Seal::of($trial->question())->count(),
            SealedView::of($trial),
            $scoring->model->notes(),
            $this->sections->of($trial, $scoring),
        );
    }

    /** Without costs, "above average" is a cut-off that was not picked on the rows it is judged on. */
    private static function cutoff(ScoringModel $scoring): ?float
    {
        return Task::TWO === $scoring->task ? CutOff::suggested($scoring->baseRate)->value : null;
    }

    public function tree(Trial $trial): TreeView
    {
        $scoring = $this->model($trial);
        if (!$scoring->model instanceof ShowsLeaves) {
            throw new Problem(404, \sprintf('Trial %d is no decision tree.', $trial->number()));
        }
        // The same cut-off as the judgment suggests: leaves whose interval holds it say neither one nor the other.
        $cutoff = self::cutoff($scoring);

        return new TreeView(
            $trial->id(),
            $trial->number(),
            $scoring->task,
            $trial->question()->event(),
            $trial->question()->target(),
            $cutoff,
            TreeReading::of($scoring->model->tree(), $cutoff),
        );
    }

    /** @param 'tp'|'fp'|'fn'|'tn' $cell */
    public function records(Trial $trial, string $cell, CutOff $cutoff, int $offset, int $limit): RecordsView
    {
        $this->ofEvent($trial, 'Cells of a cut-off are there');
        $this->onItsRows($trial);
        [, $event, $rows] = $this->ground->open($trial->study(), []);
        $chances = $trial->answers()->values;
        $picked = [];
        foreach ($chances as $i => $c) {
            if (!is_nan($c) && $cutoff->calls($c) === \in_array($cell, ['tp', 'fp'], true) && ($event[$i] > 0.5) === \in_array($cell, ['tp', 'fn'], true)) {
                $picked[$i] = $c;
            }
        }
        'fn' === $cell || 'tn' === $cell ? asort($picked) : arsort($picked);
        $page = \array_slice($picked, max(0, $offset), max(1, min(200, $limit)), true);
        $table = $this->ground->table($trial->study());
        $cells = [] === $page ? [] : $this->reader->rows($table, array_map(static fn (int $i) => $rows[$i], array_keys($page)));
        $records = [];
        foreach ($page as $i => $c) {
            $records[] = new JudgedRecord($rows[$i] + 1, $c, $event[$i] > 0.5, $cells[$rows[$i]]);
        }

        return new RecordsView(\count($picked), array_map(static fn (TableColumn $c) => $c->name(), $table->columns()), $records);
    }

    /**
     * The validation rows that a trial of a number or of several classes got most wrong.
     *
     * @param ?string $came  only rows of this class
     * @param ?string $named only rows that were taken for this class
     */
    public function worst(Trial $trial, int $limit, ?string $came, ?string $named): WorstView
    {
        $model = $this->model($trial);
        if (Task::TWO === $model->task) {
            throw new Problem(409, 'For an event, the records behind each cell are listed by cut-off.');
        }
        $this->onItsRows($trial);
        $study = $trial->study();
        $classes = $this->questions->of($study)->classes();
        foreach (['came' => $came, 'named' => $named] as $field => $class) {
            if (null !== $class && !\in_array($class, $classes ?? [], true)) {
                throw Problem::invalid(
                    null === $classes ? 'A number has no classes.' : \sprintf('“%s” is none of the classes.', $class),
                    $field,
                );
            }
        }
        [, $outcome, $rows] = $this->ground->open($study, []);
        $answers = $trial->answers();
        $off = $likeliest = [];
        foreach ($outcome as $i => $y) {
            if (!$answers->isKnown($i)) {
                continue;
            }
            if (null === $classes) {
                $off[$i] = abs($y - $answers->first($i));
                continue;
            }
            $said = $classes[$answers->likeliest($i)];
            if (($came ?? $classes[(int) $y]) === $classes[(int) $y] && ($named ?? $said) === $said) {
                $off[$i] = -$answers->ofClass($i, (int) $y);
                $likeliest[$i] = $said;
            }
        }
        arsort($off);
        $page = \array_slice(array_keys($off), 0, max(1, min(200, $limit)));
        $cells = [] === $page ? [] : $this->reader->rows($this->ground->table($study), array_map(static fn (int $i) => $rows[$i], $page));
        $records = [];
        foreach ($page as $i) {
            if (null === $classes) {
                $records[] = new WorstRecord(
                    $rows[$i] + 1,
                    null,
                    null,
                    $answers->first($i),
                    $outcome[$i],
                    $outcome[$i] - $answers->first($i),
                    $cells[$rows[$i]],
                );
                continue;
            }
            $records[] = new WorstRecord(
                $rows[$i] + 1,
                $likeliest[$i],
                $classes[(int) $outcome[$i]],
                $answers->first($i),
                null,
                $answers->ofClass($i, (int) $outcome[$i]),
                $cells[$rows[$i]],
            );
        }

        return new WorstView(
            \count($off),
            array_map(static fn (TableColumn $c) => $c->name(), $this->ground->table($study)->columns()),
            $records,
        );
    }

    /** Looks at the sealed rows once for this trial, and writes it down. */
    public function openSeal(Trial $trial, User $user): void
    {
        if (null !== $trial->opening()) {
            throw new Problem(409, 'The seal of this trial was opened before; its figures stand.');
        }
        $model = $this->model($trial);
        $study = $trial->study();
        if (0 === $this->questions->seal($study)->count()) {
            throw new Problem(409, 'This study has no sealed rows.');
        }
        $before = (int) $this->entities->createQuery('SELECT COUNT(t.id) FROM App\Trial\Trial t WHERE t.question = :question AND t.opening IS NOT NULL')->setParameter('question', $study->id())->getSingleScalarResult();
        [$table, $outcome, $rows] = $this->ground->sealed($study, array_values($model->byName()));
        $this->questions->of($study)->openSeal();
        $this->veils->draw($study);
        $answers = $model->answers($table);
        $weights = $this->ground->weights($study, $rows);
        $trial->openSeal(
            $before + 1,
            TrialFigures::of($model->task, $this->questions->of($study)->classes(), $outcome, $answers, $weights),
        );
        $measure = $trial->question()->figureOf($model->task);
        // As the page counts records.
        $value = $measure->value($outcome, $answers, $weights);
        $this->logbook->write(
            $study,
            $user,
            'judgment',
            \sprintf(
                'Seal opened for trial %d, opening %d of this study: %s on %s sealed rows.',
                $trial->number(),
                $before + 1,
                null === $value ? 'no '.$measure->name : $measure->name.' '.$measure->said($value),
                number_format(\count($outcome)),
            ),
        );
        $this->entities->flush();
    }
}
