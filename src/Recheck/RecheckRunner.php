<?php

declare(strict_types=1);

namespace App\Recheck;

use App\Http\Problem;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Table\TableColumn;
use App\Trial\MoreRows;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Recheck\Effects;
use Dokimos\Core\Recheck\Judged;
use Dokimos\Core\Recheck\Recheck;
use Dokimos\Core\Recheck\Remedies;
use Dokimos\Core\Recheck\Slices;
use Dokimos\Core\Stretch;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Validate\Trying;

/** Holds a trial against newer records. */
final readonly class RecheckRunner implements PieceRunner
{
    public const KIND = 'recheck';

    public function __construct(
        private EntityManagerInterface $entities,
        private Judgments $judgments,
        private Ground $ground,
        private OpenCells $reader,
        private MoreRows $moreRows,
        private Logbook $logbook,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $recheck = $this->entities->find(Rechecked::class, $job->subject());
        if (null === $recheck || !$recheck->isWaiting()) {
            return;
        }
        [$verdict, $told] = $this->told($recheck, $progress);
        $recheck->finish($verdict, $told);
        $reasons = \is_array($told['reasons'] ?? null) ? array_filter($told['reasons'], is_string(...)) : [];
        $this->logbook->write($recheck->study(), $job->user(), 'decisions', \sprintf(
            'Trial %d rechecked on %s: %s. %s',
            $recheck->trial()->number(),
            $recheck->table()->name(),
            $verdict,
            implode(' ', $reasons),
        ));
        $this->entities->flush();
    }

    /** @return array{string, array<string, mixed>} */
    private function told(Rechecked $recheck, Progress $progress): array
    {
        $trial = $recheck->trial();
        $asked = $recheck->asked();
        $question = $trial->question();
        $model = $this->judgments->model($trial);
        $newer = $recheck->table();
        $progress->report(0.05, 'newer records answered');
        $kinds = array_combine(
            array_map(static fn (TableColumn $c): string => $c->name(), $newer->columns()),
            array_map(static fn (TableColumn $c) => $c->kind(), $newer->columns()),
        );
        $match = $lacking = [];
        foreach (ColumnMatch::of($model->asked, $kinds) as $line) {
            null === $line['found'] ? $lacking[] = $line['asked'] : $match[$line['asked']] = $line['found'];
        }
        // What a trial has learned from tells nothing of it.
        $order = $this->moreRows->order($newer, $asked['by']);
        $learned = $trial->newer();
        if ($learned?->table === $newer->id()) {
            $order = \array_slice($this->moreRows->order($newer, $learned->by), $learned->rows);
        }
        $came = $this->moreRows->outcome($question, $newer);
        $selected = $model->select($this->reader->table($newer, array_values($match)), $match)->take($order);
        $now = new Judged(
            $model->task,
            array_map(static fn (int $row): float => $came[$row], $order),
            $model->answers($selected),
        );
        $then = $this->examined($trial, $model);
        $figure = $question->figureOf($model->task);
        $from = $asked['cutoff'] ?? Judgments::cutoff($model);
        $check = Recheck::of($then, $now, $figure, null === $from ? null : CutOff::at($from), $asked['matters'], $lacking);
        $progress->report(0.3, 'columns held against training');
        $names = array_map(strval(...), array_keys($model->asked));
        [$seen] = $this->ground->open($trial->study(), $names);
        $told = $check->toArray() + [
            'examined' => null === $trial->opening() ? 'rows it had not learned from' : 'sealed rows',
            'answered' => \count(array_filter(array_keys($now->outcome), $now->answers->isKnown(...))),
            'outcomes' => \count(array_filter($now->outcome, is_finite(...))),
            'calibration' => ['then' => Slices::calibration($then), 'now' => Slices::calibration($now)],
            'columns' => [] === $lacking ? Effects::of($model, $seen, $selected) : [],
            'periods' => null === $asked['by'] ? [] : Slices::of($now, $this->months($recheck, $asked['by'], $order), $figure),
            'groups' => [],
            'figure' => $figure->name,
            'event' => $question->event(),
            'answers' => self::spread($then, $now),
        ];
        foreach ($asked['groups'] as $name) {
            $told['groups'][] = ['by' => $name, 'groups' => Slices::of($now, $this->labels($recheck, $name, $order), $figure)];
        }
        $told['remedies'] = [] === $lacking
            ? $this->remedies($recheck, $model, $now, $selected, $match, $order, new Stretch($progress, 0.4, 1.0))
            : [];

        return [$check->verdict->value, $told];
    }

    /** Records that it was examined on: the sealed ones where the seal was opened for it, else those of the folds. */
    private function examined(Trial $trial, ScoringModel $model): Judged
    {
        $study = $trial->study();
        if (null !== $trial->opening()) {
            [$table, $outcome] = $this->ground->sealed($study, array_values($model->byName()));

            return new Judged($model->task, $outcome, $model->answers($table));
        }
        [, $outcome] = $this->ground->open($study, []);

        return new Judged($model->task, $outcome, $trial->answers());
    }

    /**
     * Where answers lie, then and now: told before any outcome is known.
     *
     * @return array{then: list<float>, now: list<float>} deciles
     */
    private static function spread(Judged $then, Judged $now): array
    {
        $deciles = static function (Judged $of): array {
            $known = [];
            for ($row = 0, $n = $of->answers->rows(); $row < $n; ++$row) {
                if ($of->answers->isKnown($row)) {
                    $known[] = $of->answers->first($row);
                }
            }
            sort($known, \SORT_NUMERIC);

            return [] === $known ? [] : array_map(static fn (int $k): float => $known[intdiv($k * (\count($known) - 1), 10)], range(0, 10));
        };

        return ['then' => $deciles($then), 'now' => $deciles($now)];
    }

    /**
     * @param list<int> $order
     *
     * @return list<?string>
     */
    private function months(Rechecked $recheck, string $by, array $order): array
    {
        $column = $recheck->table()->column($by);
        $cells = null === $column ? null : $this->reader->column($column);
        if (!$cells instanceof DateColumn) {
            return array_map(static fn (): null => null, $order);
        }
        $seconds = array_map(static fn (int $row): ?int => $cells->isMissing($row) ? null : $cells->seconds[$row], $order);
        $known = array_filter($seconds, is_int(...));
        // Of less than a quarter of a year weeks tell more.
        $weeks = [] !== $known && max($known) - min($known) < 92 * DateColumn::DAY;

        return array_map(static fn (?int $s): ?string => null === $s ? null : ($weeks
            ? gmdate('Y-m-d', $s - ((int) gmdate('N', $s) - 1) * DateColumn::DAY)
            : gmdate('Y-m', $s)), $seconds);
    }

    /**
     * @param list<int> $order
     *
     * @return list<?string>
     */
    private function labels(Rechecked $recheck, string $name, array $order): array
    {
        $column = $recheck->table()->column($name);
        $cells = null === $column ? null : $this->reader->column($column);

        return array_map(static fn (int $row): ?string => $cells?->text($row), $order);
    }

    /**
     * @param array<string, string> $match
     * @param list<int>             $order
     *
     * @return list<array<string, mixed>>
     */
    private function remedies(
        Rechecked $recheck,
        ScoringModel $model,
        Judged $now,
        Table $selected,
        array $match,
        array $order,
        Progress $progress,
    ): array {
        $cut = Remedies::cut($now->rows());
        if (0 === $cut || [] === array_filter($now->outcome, is_finite(...))) {
            return [];
        }
        $measured = range($cut, $now->rows() - 1);
        $raw = null === $model->calibrated ? $now : new Judged($model->task, $now->outcome, $model->uncalibrated()->answers($selected));
        try {
            $set = Remedies::calibration($raw->some(range(0, $cut - 1)));
        } catch (CannotCalibrate) {
            $set = null;
        }

        return Remedies::of(
            $now->some(range(0, $cut - 1)),
            $now->some($measured),
            $set,
            $raw->some($measured),
            $this->anew($recheck, $now, $match, $order, $cut, $progress),
            $recheck->trial()->question()->figureOf($model->task),
        );
    }

    /**
     * The newest records, answered by the same fitted on old records and the earlier part of the newer ones.
     *
     * @param array<string, string> $match
     * @param list<int>             $order
     */
    private function anew(Rechecked $recheck, Judged $now, array $match, array $order, int $cut, Progress $progress): ?Judged
    {
        $trial = $recheck->trial();
        if ($trial->isBlend()) {
            return null;
        }
        $study = $trial->study();
        [$open, $outcome, $rows] = $this->ground->open($study, $this->ground->needed($study, $trial->steps(), $trial->inputs()));
        try {
            [$table, $all, $counted] = $this->moreRows->under(
                $trial,
                $recheck->table(),
                $order,
                $now->outcome,
                $open,
                $outcome,
                $this->ground->weights($study, $rows),
                null,
                $match,
            );
        } catch (Problem) {
            return null;
        }
        $trying = new Trying(
            $table,
            $trial->inputs(),
            $all,
            Preparation::fromArray($trial->steps()),
            $trial->refitted(),
            $trial->question()->classes(),
            $counted,
            choice: $trial->choice(),
        );
        try {
            $fit = $trying->fold(
                range($open->rows + $cut, $table->rows - 1),
                range(0, $open->rows + $cut - 1),
                $progress,
            );
        } catch (CannotFit) {
            return null;
        }

        return new Judged($now->task, \array_slice($now->outcome, $cut), new Answers($fit['answers']->values, $fit['answers']->width));
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $recheck = $this->entities->find(Rechecked::class, $job->subject());
        if (null !== $recheck && $recheck->isWaiting()) {
            $recheck->fail($failure ?? 'Stopped.');
            $this->entities->flush();
        }
    }
}
