<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Question\Ground;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Stretch;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\TrialData;

/** The learning curve of a trial: its figure when it learns from 10, 20, 40, 70 and 100 % of the training rows; those judged on stay the same. */
final readonly class CurveRunner implements PieceRunner
{
    public const KIND = 'curve';
    public const SHARES = [0.1, 0.2, 0.4, 0.7, 1.0];
    /** Of fewer training rows a share teaches nothing worth drawing. */
    private const FEWEST = 40;

    public function __construct(
        private EntityManagerInterface $entities,
        private Ground $ground,
        private Validation $validation,
        private Curves $curves,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        if (null === $trial || !$trial->isDone() || null !== $this->curves->kept($trial)) {
            return;
        }
        $study = $trial->study();
        $question = $trial->question();
        $split = $question->plan() ?? throw new \LogicException('A trial has a split plan.');
        [$table, $outcome, $rows] = $this->ground->open($study, $this->ground->needed($study, $trial->steps(), $trial->inputs()));
        $labels = $this->ground->labels($study, $rows);
        $data = new TrialData(
            $table,
            $trial->inputs(),
            $outcome,
            Preparation::fromArray($trial->steps()),
            $question->classes(),
            $this->ground->weights($study, $rows),
            $split->apart($labels),
            $trial->choice(),
        );
        $folds = $this->validation->of($study)->firstRound();
        $points = $answers = [];
        foreach (self::SHARES as $i => $share) {
            $own = [];
            foreach ($split->parts($outcome, array_keys($outcome), 0, $labels) as $validation) {
                $training = $split->training($outcome, array_keys($outcome), $validation, $labels);
                $own[] = ['validation' => $validation, 'training' => $data->some($training, (int) round($share * \count($training)))];
            }
            $mean = (int) round(array_sum(array_map(static fn (array $f): int => \count($f['training']), $own)) / max(1, \count($own)));
            if ($mean < self::FEWEST) {
                continue;
            }
            $weighed = Weigh::of(
                $data,
                [Learners::make($trial->learner(), $trial->settings())],
                $own,
                new Stretch($progress, $i / \count(self::SHARES), ($i + 1) / \count(self::SHARES)),
            )[0] ?? null;
            if (null === ($weighed['answers'] ?? null)) {
                continue;
            }
            $told = $folds->answers([$weighed['answers']]);
            $weights = $folds->weightsOf($told->rows());
            $sample = Sample::known($told->outcomes(), $told->first(), $weights, false);
            $plain = null === $sample ? new Interval(null) : $question->figure()->interval($sample) ?? new Interval(null);
            $judged = $question->figure()->byFold ? $told->judged($question->figure(), $plain)['interval'] : $plain;
            $points[] = ['share' => $share, 'rows' => $mean] + $judged->toArray();
            $answers[] = $told->firstFilled();
        }
        $gain = null;
        if (\count($answers) > 1) {
            $told = $folds->answers([]);
            $test = Comparison::ofRows(
                $question->figure(),
                $told->outcomes(),
                $answers[\count($answers) - 1],
                $answers[\count($answers) - 2],
                $folds->weightsOf($told->rows()),
            );
            $sign = $question->figure()->more ? 1.0 : -1.0;
            $gain = null === $test?->low || null === $test->high ? null : [
                'value' => $sign * $test->difference,
                'low' => min($sign * $test->low, $sign * $test->high),
                'high' => max($sign * $test->low, $sign * $test->high),
            ];
        }
        $this->curves->keep($trial, $points, $gain);
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
