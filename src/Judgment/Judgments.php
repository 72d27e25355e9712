<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Account\User;
use App\Http\Problem;
use App\Judgment\Section\Sections;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\Questions;
use App\Question\Seal;
use App\Question\Veils;
use App\Trial\Ancestry;
use App\Trial\Trial;
use App\Trial\TrialView;
use App\Trial\Validation;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Tree\ShowsLeaves;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\FoundCutOff;
use Dokimos\Core\Validate\TrialFigures;

/** Judges trials: figures, the records behind them, and the sealed rows when they are opened. */
final readonly class Judgments
{
    public function __construct(
        private Ground $ground,
        private Logbook $logbook,
        private EntityManagerInterface $entities,
        private Veils $veils,
        private Sections $sections,
        private Questions $questions,
        private Validation $validation,
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

    /** The model that new records are scored with: the one fitted once more on all records, if there is one. */
    public function inUse(Trial $trial): ScoringModel
    {
        $handed = $trial->handed();

        return null === $handed ? $this->model($trial) : ScoringModel::fromArray($handed);
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
    public static function cutoff(ScoringModel $scoring): ?float
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

    /**
     * @param string $by   one of FoundCutOff::BY
     * @param float  $miss cost of an event that is not called
     * @param float  $vain cost of a call in vain
     *
     * @throws Problem for a figure that knows no cut-off, and where there is nothing to find
     */
    public function foundCutOff(Trial $trial, string $by, float $miss, float $vain): FoundCutOffView
    {
        if (!\in_array($by, FoundCutOff::BY, true)) {
            throw Problem::invalid('A cut-off is found by '.implode(', ', FoundCutOff::BY).'.', 'by');
        }
        foreach (['miss' => $miss, 'vain' => $vain] as $field => $cost) {
            if (!is_finite($cost) || $cost < 0.0) {
                throw Problem::invalid('A cost is 0 or more.', $field);
            }
        }
        if (FoundCutOff::COSTS === $by && $miss + $vain <= 0.0) {
            throw Problem::invalid('One of the two costs has to be above 0.', 'miss');
        }
        $this->ofEvent($trial, 'A cut-off is found');
        $this->onItsRows($trial);
        [, $event] = $this->ground->open($trial->study(), []);
        $found = FoundCutOff::of(
            $trial->answers()->values,
            $event,
            $this->validation->of($trial->study())->parts[0] ?? [],
            $by,
            $miss,
            $vain,
        );
        if (null === $found) {
            throw new Problem(409, 'There are too few events to find a cut-off on some folds and judge it on others.');
        }

        return new FoundCutOffView($by, $found->cutoff->value, $found->expected, $found->seen, $found->from, $found->to);
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
