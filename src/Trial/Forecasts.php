<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Job;
use App\Question\Ground;
use App\Question\Questions;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\TakesTime;
use Dokimos\Core\Learners\Learners;

/**
 * About how long a trial will take, from those that ran here: seconds per row, input and fit, the median of the learner's latest. Trials
 * of the study itself are asked first, since other tables have other categories.
 */
final readonly class Forecasts
{
    private const LATEST = 60;
    /** What a forecast of answers is for. */
    private const ANSWERS = 10_000;

    public function __construct(private EntityManagerInterface $entities, private Ground $ground, private Questions $questions)
    {
    }

    /** @return list<ForecastView> of the learners that were measured, and of those whose answers take long */
    public function of(Study $study): array
    {
        $plan = $this->questions->of($study)->plan();
        if (null === $plan) {
            return [];
        }
        $rows = $this->ground->table($study)->rows() - $this->questions->seal($study)->count();
        $columns = \count($this->ground->inputs($study));
        $work = self::work($rows, $columns, \count(TrialRunner::pieces($plan)));
        $own = $other = [];
        foreach ($this->entities->getRepository(Job::class)->findBy(
            ['kind' => TrialRunner::KIND, 'state' => Job::DONE],
            ['id' => 'DESC'],
            self::LATEST,
        ) as $job) {
            $trial = $this->entities->find(Trial::class, $job->subject());
            $took = ($job->endedAt() ?? 0.0) - ($job->startedAt() ?? 0.0);
            if (null === $trial || $took <= 0.0 || !$trial->isDone()) {
                continue;
            }
            $rate = $took / self::work($trial->line()->rows, \count($trial->inputs()), $job->pieces());
            if ($trial->study() === $study) {
                $own[$trial->learner()][] = $rate;
            } else {
                $other[$trial->learner()][] = $rate;
            }
        }
        $slow = array_fill_keys(array_filter(
            array_map(static fn (AboutLearner $a): string => $a->name, Learners::all()),
            static fn (string $name): bool => is_a(Learners::card($name)->model, TakesTime::class, true),
        ), []);
        $views = [];
        foreach ($own + $other + $slow as $learner => $rates) {
            sort($rates);
            $views[] = new ForecastView(
                (string) $learner,
                [] === $rates ? null : $work * $rates[intdiv(\count($rates) - 1, 2)],
                \count($rates),
                isset($own[$learner]),
                isset($slow[$learner]) ? self::ANSWERS * $rows * $columns * TakesTime::SECONDS : null,
            );
        }

        return $views;
    }

    /** About how many seconds so many fits of a trial take, as its own did; null where it was not measured. */
    public function again(Trial $trial, int $fits): ?float
    {
        $job = $this->entities->getRepository(Job::class)->findOneBy(
            ['kind' => TrialRunner::KIND, 'subject' => $trial->id(), 'state' => Job::DONE],
            ['id' => 'DESC'],
        );
        $took = ($job?->endedAt() ?? 0.0) - ($job?->startedAt() ?? 0.0);

        return null === $job || $took <= 0.0 ? null : $took * $fits / max(1, $job->pieces());
    }

    private static function work(int $rows, int $inputs, int $fits): float
    {
        return (float) max(1, $rows) * max(1, $inputs) * max(1, $fits);
    }
}
