<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\FigureSoFar;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Job\TellsFigure;
use App\Logbook\Logbook;
use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\Learners;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\Trying;

/** Fits the folds of a trial and the whole, then puts the figures together. */
final readonly class TrialRunner implements PieceRunner, TellsFigure
{
    public const KIND = 'trial';
    public const WHOLE = 'whole';

    public function __construct(private EntityManagerInterface $entities, private Ground $ground, private Logbook $logbook)
    {
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

            return;
        }
        if (null !== $this->entities->getRepository(FoldResult::class)->findOneBy(['trial' => $trial, 'key' => $piece->key()])) {
            return;
        }
        $study = $trial->study();
        $plan = $study->plan() ?? throw new \LogicException('A trial has a split plan.');
        [$table, $event] = $this->ground->open($study, $this->ground->candidates($study));
        $trying = new Trying($table, $trial->inputs(), $event, Preparation::fromArray($trial->steps()), Learners::make($trial->learner(), $trial->settings()));
        if (self::WHOLE === $piece->key()) {
            $result = new FoldResult($trial, $piece->key(), $trying->whole((string) $study->target(), (string) $study->event(), $progress)->toArray(), '');
        } else {
            $repeat = $piece->payload()['repeat'] ?? 0;
            $fold = $piece->payload()['fold'] ?? 0;
            $validation = $plan->parts($event, array_keys($event), \is_int($repeat) ? $repeat : 0)[\is_int($fold) ? $fold : 0];
            $out = $trying->fold($validation, $progress);
            $result = new FoldResult($trial, $piece->key(), [
                'auc' => self::auc($event, $validation, $out['chances']),
                'training' => self::auc($event, $out['trainingRows'], $out['training']),
            ], FoldResult::pack($out['chances']));
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
     * @param list<float> $event
     * @param list<int>   $rows
     * @param list<float> $chances
     */
    private static function auc(array $event, array $rows, array $chances): ?float
    {
        $known = $score = [];
        foreach ($chances as $i => $c) {
            if (!is_nan($c)) {
                $known[] = $event[$rows[$i]];
                $score[] = $c;
            }
        }

        return [] === $known ? null : (new BinaryScores($known, $score))->auc();
    }

    private function join(Trial $trial, Job $job): void
    {
        $study = $trial->study();
        $plan = $study->plan() ?? throw new \LogicException('A trial has a split plan.');
        [, $event] = $this->ground->open($study, []);
        $sum = array_fill(0, \count($event), 0.0);
        $times = array_fill(0, \count($event), 0);
        $folds = $training = [];
        $model = [];
        foreach ($this->entities->getRepository(FoldResult::class)->findBy(['trial' => $trial], ['key' => 'ASC']) as $result) {
            if (self::WHOLE === $result->key()) {
                $model = $result->figures();
                continue;
            }
            sscanf($result->key(), 'r%df%d', $repeat, $fold);
            $out = $result->chances();
            foreach ($plan->parts($event, array_keys($event), (int) $repeat)[(int) $fold] as $i => $row) {
                $sum[$row] += $out[$i];
                ++$times[$row];
            }
            $folds[] = $result->figures()['auc'] ?? null;
            $training[] = $result->figures()['training'] ?? null;
        }
        $chances = [];
        foreach ($sum as $row => $s) {
            $chances[] = $times[$row] > 0 ? $s / $times[$row] : \NAN;
        }
        // With a single validation part most rows are never validated: figures speak of those that were.
        $seen = array_keys(array_filter($times));
        $figures = TrialFigures::of(array_map(static fn (int $r) => $event[$r], $seen), array_map(static fn (int $r) => $chances[$r], $seen));
        $figures['folds'] = TrialFigures::folds(array_values(array_filter($folds, is_float(...))), array_values(array_filter($training, is_float(...))), $plan->folds);
        $figures += self::told($model);
        $trial->finish($figures, $model, $chances);
        foreach ($this->entities->getRepository(FoldResult::class)->findBy(['trial' => $trial]) as $result) {
            $this->entities->remove($result);
        }
        $auc = \is_array($figures['auc'] ?? null) ? $figures['auc'] : null;
        $this->logbook->write($study, $job->user(), 'trials', \sprintf('Trial %d, %s on variant %s: %s on %s validation rows; the baseline scores 0.500.', $trial->number(), mb_strtolower(Learners::title($trial->learner())), $trial->variant()?->letter() ?? '?', null === $auc ? 'no AUC' : \sprintf('AUC %.3f (%.3f to %.3f)', $auc['value'], $auc['low'], $auc['high']), number_format(\count($seen))));
        $this->entities->flush();
    }

    /**
     * What the Standings say of a model, so that they need not read it.
     *
     * @param array<string, mixed> $model
     *
     * @return array{size: string, columns: int}
     */
    private static function told(array $model): array
    {
        if ([] === $model) {
            return ['size' => '', 'columns' => 0];
        }
        $fitted = ScoringModel::fromArray($model)->model;

        return ['size' => $fitted->size(), 'columns' => \count($fitted->columns())];
    }

    /** The mean AUC of the folds that are through. */
    public function figureSoFar(Job $job): ?FigureSoFar
    {
        /** @var list<array{figures: array<string, mixed>}> $results */
        $results = $this->entities->createQuery('SELECT r.figures FROM App\Trial\FoldResult r WHERE r.trial = :trial AND r.key <> :whole')
            ->setParameter('trial', $job->subject())->setParameter('whole', self::WHOLE)->getArrayResult();
        $values = array_values(array_filter(array_map(static fn (array $r) => $r['figures']['auc'] ?? null, $results), is_float(...)));

        return [] === $values ? null : new FigureSoFar('AUC', array_sum($values) / \count($values), \count($values));
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
        $this->logbook->write($trial->study(), $job->user(), 'trials', null === $failure ? \sprintf('Trial %d was cancelled.', $trial->number()) : \sprintf('Trial %d could not be fitted: %s', $trial->number(), $failure));
        $this->entities->flush();
    }
}
