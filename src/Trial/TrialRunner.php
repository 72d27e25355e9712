<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\FigureSoFar;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Job\TellsFigure;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Question\Questions;
use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\CrossCalibrated;
use Dokimos\Core\Validate\FoldAnswers;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\TrialFigures;
use Dokimos\Core\Validate\Trying;

/** Fits the folds of a trial and the whole, then puts the figures together. */
final readonly class TrialRunner implements PieceRunner, TellsFigure
{
    public const KIND = 'trial';
    public const WHOLE = 'whole';

    public function __construct(
        private EntityManagerInterface $entities,
        private Ground $ground,
        private Validation $validation,
        private Logbook $logbook,
        private Trials $trials,
        private Questions $questions,
        private FurtherFigures $further,
        private MoreRows $moreRows,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    /** @return array<string, array<string, mixed>> the pieces of a trial by key */
    public static function pieces(SplitPlan $plan): array
    {
        $pieces = [];
        for ($r = 0; $r < $plan->repeats; ++$r) {
            for ($f = 0; $f < $plan->folds; ++$f) {
                $pieces[\sprintf('r%df%d', $r, $f)] = ['repeat' => $r, 'fold' => $f];
            }
        }

        return $pieces + [self::WHOLE => []];
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        if (null === $trial || $trial->isDone()) {
            return;
        }
        if (Piece::JOIN === $piece->key()) {
            $this->join($trial, $job);
            $this->trials->compare($trial->study(), $progress);

            return;
        }
        if (null !== $this->entities->getRepository(FoldResult::class)->findOneBy(['trial' => $trial, 'key' => $piece->key()])) {
            return;
        }
        $study = $trial->study();
        $plan = $this->questions->of($study)->plan() ?? throw new \LogicException('A trial has a split plan.');
        [$table, $outcome, $rows] = $this->ground->open($study, $this->ground->needed($study, $trial->steps(), $trial->inputs()));
        $weights = $this->ground->weights($study, $rows);
        $labels = $this->ground->labels($study, $rows);
        // Folds are those of the study's records, whatever else is learned from.
        [$table, $all, $counted, $apart, $more] = $this->moreRows->below($trial, $table, $outcome, $weights, $labels);
        $trying = new Trying(
            $table,
            $trial->inputs(),
            $all,
            Preparation::fromArray($trial->steps()),
            $trial->refitted(),
            $this->questions->of($study)->classes(),
            $counted,
            $plan->apart($apart),
            $trial->part(),
            $trial->choice(),
        );
        if (self::WHOLE === $piece->key()) {
            $result = new FoldResult(
                $trial,
                $piece->key(),
                $trying->whole(
                    (string) $this->questions->of($study)->target(),
                    (string) $this->questions->of($study)->event(),
                    $progress,
                )->toArray(),
                '',
            );
        } else {
            $repeat = $piece->payload()['repeat'] ?? 0;
            $fold = $piece->payload()['fold'] ?? 0;
            $measure = $this->questions->of($study)->figure();
            $validation = $plan->parts($outcome, array_keys($outcome), \is_int($repeat) ? $repeat : 0, $labels)[\is_int($fold) ? $fold : 0];
            $training = [...$plan->training($outcome, array_keys($outcome), $validation, $labels), ...$more];
            $out = $trying->fold($validation, $training, $progress, $measure);
            $result = new FoldResult($trial, $piece->key(), [
                'figure' => $measure->value(
                    self::at($outcome, $validation),
                    $out['answers'],
                    null === $weights ? null : self::at($weights, $validation),
                ),
                'training' => $measure->value(
                    self::at($all, $out['trainingRows']),
                    $out['training'],
                    null === $counted ? null : self::at($counted, $out['trainingRows']),
                ),
                'lost' => $out['lost'],
            ], FoldResult::pack($out['answers']));
        }
        $this->entities->persist($result);
        try {
            $this->entities->flush();
        } catch (UniqueConstraintViolationException) {
            // Another worker did the same piece after this one's lease had run out; its result is the same.
            $this->entities->clear();
        }
    }

    /**
     * @param list<float>           $values
     * @param array<array-key, int> $rows
     *
     * @return list<float>
     */
    private static function at(array $values, array $rows): array
    {
        return array_values(array_map(static fn (int $row): float => $values[$row], $rows));
    }

    private function join(Trial $trial, Job $job): void
    {
        $study = $trial->study();
        $plan = $this->questions->of($study)->plan() ?? throw new \LogicException('A trial has a split plan.');
        [, $outcome, $rows] = $this->ground->open($study, []);
        $width = Answers::widthOf($this->questions->of($study)->classes());
        $folds = $this->validation->of($study);
        $answers = array_fill(0, $plan->repeats, array_fill(0, \count($outcome) * $width, \NAN));
        $training = $lost = [];
        $model = [];
        foreach ($this->entities->getRepository(FoldResult::class)->findBy(['trial' => $trial], ['key' => 'ASC']) as $result) {
            if (self::WHOLE === $result->key()) {
                $model = $result->figures();
                continue;
            }
            sscanf($result->key(), 'r%df%d', $repeat, $fold);
            $out = $result->answers($width)->values;
            foreach ($folds->parts[(int) $repeat][(int) $fold] as $i => $row) {
                for ($k = 0; $k < $width; ++$k) {
                    $answers[(int) $repeat][$row * $width + $k] = $out[$i * $width + $k];
                }
            }
            $training[] = $result->figures()['training'] ?? null;
            $lost[] = $result->figures()['lost'] ?? [];
        }
        $answers = array_values(array_map(static fn (array $own): Answers => new Answers(array_values($own), $width), $answers));
        $weights = $this->ground->weights($study, $rows);
        $cross = Way::NONE === $trial->calibration() ? null : CrossCalibrated::of(
            $trial->calibration(),
            $outcome,
            $answers,
            $folds->parts,
            $weights,
        );
        $before = $folds->answers($answers);
        $answers = $cross->answers ?? $answers;
        $anew = [] === $model ? null : $this->moreRows->calibration($trial, ScoringModel::fromArray($model));
        if (null !== $anew) {
            // Learned from none of the rows that are judged here: one calibration serves all folds.
            $answers = array_map($anew->of(...), $answers);
            $model = ['calibrated' => $anew->toArray()] + $model;
        }
        // With a single validation part most rows are never validated: figures speak of those that were.
        $figures = TrialFigures::judged(
            $this->questions->of($study)->task(),
            $this->questions->of($study)->classes(),
            $folds->answers($answers),
            array_values(array_filter($training, is_float(...))),
            $weights,
        );
        $judged = $folds->answers($answers);
        $seen = $judged->rows();
        $figures['full'] = !\in_array(false, $judged->answered(), true);
        if (null !== $weights) {
            $figures['weight'] = [
                'column' => $this->ground->weight($study)?->name(),
                'without' => \count(array_filter($weights, static fn (float $w): bool => $w <= 0.0)),
                'sum' => array_sum($weights),
            ];
        }
        $figures['importance'] = TrialFigures::importance(array_values(array_filter($lost, is_array(...))), $plan->folds);
        $figures += self::told($model);
        if (null !== $cross) {
            $model = array_diff_key($model, ['calibrated' => 1]) + (null === $cross->calibrated ? [] : [
                'calibrated' => $cross->calibrated->toArray(),
            ]);
            $figures['calibrated'] = self::calibrated($cross, $before);
        }
        $trial->finish($figures, $model, $answers);
        foreach ($this->entities->getRepository(FoldResult::class)->findBy(['trial' => $trial]) as $result) {
            $this->entities->remove($result);
        }
        $measure = $this->questions->of($study)->figure();
        $this->further->measure($study, $measure);
        $view = TrialView::of($trial);
        $this->logbook->write(
            $study,
            $job->user(),
            'trials',
            \sprintf(
                'Trial %d, %s on variant %s: %s on %s validation rows; the baseline scores %s.',
                $trial->number(),
                mb_strtolower(Learners::title($trial->learner())),
                $trial->variant()?->letter() ?? '?',
                null === $view->value ? 'no '.$measure->name : \sprintf(
                    '%s %s (%s to %s)',
                    $measure->name,
                    $measure->said($view->value),
                    $measure->said($view->low),
                    $measure->said($view->high),
                ),
                number_format(\count($seen)),
                $measure->said($view->baseline),
            ),
        );
        $this->entities->flush();
    }

    /** @return array<string, mixed> which way was taken, the log loss of those weighed, and the bins of chances as they came */
    private static function calibrated(CrossCalibrated $cross, FoldAnswers $before): array
    {
        $sample = 1 === $before->first()->width ? Sample::known($before->outcomes(), $before->first(), null, false) : null;
        $bins = null === $sample ? [] : TrialFigures::calibration($sample);

        return ['way' => $cross->way, 'losses' => $cross->losses, 'before' => $bins];
    }

    /**
     * What the Standings say of a model, so that they need not read it.
     *
     * @param array<string, mixed> $model
     *
     * @return array{size: string, columns: int, reading?: ?int}
     */
    private static function told(array $model): array
    {
        if ([] === $model) {
            return ['size' => '', 'columns' => 0];
        }
        $fitted = ScoringModel::fromArray($model)->model;

        return [
            'size' => $fitted->size(),
            'columns' => \count($fitted->columns()),
            'reading' => $fitted instanceof CanBeRead ? $fitted->reading() : null,
        ];
    }

    /** The mean figure of the folds that are through. */
    public function figureSoFar(Job $job): ?FigureSoFar
    {
        /** @var list<array{figures: array<string, mixed>}> $results */
        $results = $this->entities->createQuery('SELECT r.figures FROM App\Trial\FoldResult r WHERE r.trial = :trial AND r.key <> :whole')
            ->setParameter('trial', $job->subject())->setParameter('whole', self::WHOLE)->getArrayResult();
        $values = array_values(array_filter(array_map(static fn (array $r) => $r['figures']['figure'] ?? null, $results), is_float(...)));

        $figure = $this->entities->find(Trial::class, $job->subject())?->question()->figure() ?? Figures::ranking(Task::TWO);

        return [] === $values ? null : new FigureSoFar($figure->name, array_sum($values) / \count($values), \count($values));
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        if (null === $trial || $trial->isDone()) {
            return;
        }
        if (null === $failure) {
            $trial->cancel();
        } else {
            $trial->fail($failure);
        }
        $this->logbook->write(
            $trial->study(),
            $job->user(),
            'trials',
            null === $failure ? \sprintf('Trial %d was cancelled.', $trial->number()) : \sprintf(
                'Trial %d could not be fitted: %s',
                $trial->number(),
                $failure,
            ),
        );
        $this->entities->flush();
        // What its folds had found is of no use any more.
        $this->entities->createQuery('DELETE App\Trial\FoldResult f WHERE f.trial = :trial')->setParameter('trial', $trial)->execute();
    }
}
