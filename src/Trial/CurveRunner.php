<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Progress;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Stretch;
use Dokimos\Core\Validate\Comparison;

/** The learning curve of a trial: its figure when it learns from 10, 20, 40, 70 and 100 % of the training rows; those judged on stay the same. */
final readonly class CurveRunner implements PieceRunner
{
    public const KIND = 'curve';
    public const SHARES = [0.1, 0.2, 0.4, 0.7, 1.0];
    /** Of fewer training rows a share teaches nothing worth drawing. */
    private const FEWEST = 40;

    public function __construct(
        private EntityManagerInterface $entities,
        private TrialFolds $trialFolds,
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
        $question = $trial->question();
        [$data, $whole] = $this->trialFolds->of($trial);
        $folds = $this->validation->of($trial->study())->firstRound();
        $points = $answers = [];
        foreach (self::SHARES as $i => $share) {
            $own = [];
            foreach ($whole as $fold) {
                $own[] = ['training' => $data->some($fold['training'], (int) round($share * \count($fold['training'])))] + $fold;
            }
            $mean = (int) round(array_sum(array_map(static fn (array $f): int => \count($f['training']), $own)) / max(1, \count($own)));
            if ($mean < self::FEWEST) {
                continue;
            }
            $weighed = Weigh::of(
                $data,
                [$trial->refitted()],
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
