<?php

declare(strict_types=1);

namespace App\Search;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Logbook\Logbook;
use App\Preparation\Variant;
use App\Question\Ground;
use App\Question\Questions;
use App\Storage\Store;
use App\Study\Study;
use App\Trial\Forecasts;
use App\Trial\TrialPlan;
use App\Trial\TrialRunner;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Search\Draws;

/** Starts searches, lets them go on, and tells what they would take. */
final readonly class Searches
{
    /** Pieces that a search is cut into: many enough that a killed worker loses little, few enough that folds are prepared seldom. */
    private const PIECES = 40;
    private const MOST_OF_A_PIECE = 12;

    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private Ground $ground,
        private Questions $questions,
        private Trials $trials,
        private Forecasts $forecasts,
        private Logbook $logbook,
        private Store $store,
    ) {
    }

    /** @param non-empty-list<Variant> $variants */
    public function plan(Study $study, SearchRequest $request, array $variants): SearchPlan
    {
        $this->ground->target($study);
        $plan = SearchPlan::of($request, $variants, $this->ground->inputs($study));
        foreach ($plan->spaces() as $space) {
            foreach ($variants as $variant) {
                $this->trials->check($study, new TrialPlan($variant, $space->learner, $space->fixed, $request->rows));
            }
        }

        return $plan;
    }

    /** @param non-empty-list<Variant> $variants */
    public function weigh(Study $study, SearchRequest $request, array $variants): SearchForecastView
    {
        $plan = $this->plan($study, $request, $variants);
        $candidates = $plan->candidates();
        $split = $this->questions->of($study)->plan() ?? throw new Problem(409, 'Choose the target first.');
        $per = [];
        foreach ($this->forecasts->of($study) as $forecast) {
            if (null !== $forecast->seconds) {
                $per[$forecast->learner] = $forecast->seconds / \count(TrialRunner::pieces($split));
            }
        }
        $seconds = 0.0;
        $known = true;
        foreach ($candidates as $one) {
            $learner = $plan->spaces[$one->space]['learner'];
            $known = $known && isset($per[$learner]);
            $seconds += ($per[$learner] ?? 0.0) * $split->folds;
        }

        // Two workers share the work; the forecast of a trial is of both at work already.
        return new SearchForecastView(
            Draws::count($plan->spaces(), \count($plan->variants), \count($plan->choices)),
            \count($candidates),
            \count($candidates) * $split->folds,
            $known ? $seconds : null,
        );
    }

    /** @param non-empty-list<Variant> $variants */
    public function start(Study $study, User $user, SearchRequest $request, array $variants): Job
    {
        $plan = $this->plan($study, $request, $variants);
        $count = \count($plan->candidates());
        if ($count < 2) {
            throw Problem::invalid('A search weighs at least two settings: vary one of them.', 'spaces');
        }

        return $this->entities->getConnection()->transactional(function () use ($study, $user, $plan, $count): Job {
            $question = $this->questions->of($study);
            $this->store->alone('searches', $study->id());
            $last = $this->entities->createQuery('SELECT MAX(s.number) FROM App\Search\Search s WHERE s.question = :question')->setParameter('question', $study->id())->getSingleScalarResult();
            $search = new Search(
                $question,
                1 + (int) (is_numeric($last) ? $last : 0),
                $question->hash(),
                $question->figure()->key,
                $plan->toArray(),
                $count,
            );
            $this->entities->persist($search);
            $this->entities->flush();
            $this->logbook->write(
                $study,
                $user,
                'trials',
                \sprintf(
                    'Search %d began: %s, %s settings by %s.',
                    $search->number(),
                    self::learners($plan),
                    number_format($count),
                    $question->figure()->name,
                ),
            );

            return $this->run($search, $user, range(0, $count - 1));
        });
    }

    /** @param int $more settings beside those that were planned */
    public function goOn(Search $search, User $user, int $more): Job
    {
        if (Search::RUNNING === $search->state()) {
            throw new Problem(409, 'This search is running.');
        }
        if ($search->isGuided()) {
            throw new Problem(409, 'A guided search goes on from where it was stopped by keeping its best; start another for more.');
        }
        if ($search->isStale()) {
            throw new Problem(409, 'The table, the target or the split plan have changed since; start another search.');
        }
        $plan = SearchPlan::fromArray($search->asked());
        if ($more > 0 && Draws::ALL === $plan->way) {
            throw new Problem(409, 'All combinations were asked for; there are no more of them. Widen a range.');
        }
        $plan = $more > 0 ? $plan->withTries($search->tries() + $more) : $plan;
        $count = \count($plan->candidates());
        /** @var list<int> $there */
        $there = $this->entities->createQuery('SELECT t.place FROM App\Search\SearchTry t WHERE t.search = :search')->setParameter('search', $search)->getSingleColumnResult();
        $left = array_values(array_diff(range(0, $count - 1), $there));
        if ([] === $left) {
            throw new Problem(409, 'There is nothing left that this search has not tried.');
        }

        return $this->entities->getConnection()->transactional(function () use ($search, $user, $plan, $count, $left): Job {
            $search->goOn($plan->toArray(), $count);

            return $this->run($search, $user, $left);
        });
    }

    /** Stops where it is: the best so far is corrected for having been chosen, and becomes a trial. */
    public function keep(Search $search, User $user): Job
    {
        $tried = $this->entities->createQuery('SELECT COUNT(t.id) FROM App\Search\SearchTry t WHERE t.search = :search AND t.value IS NOT NULL')->setParameter('search', $search)->getSingleScalarResult();
        if (0 === (int) (is_numeric($tried) ? $tried : 0)) {
            throw new Problem(409, 'Nothing has been weighed yet, so there is nothing to keep.');
        }
        $running = $this->jobs->underWay($search->isGuided() ? GuidedRunner::KIND : SearchRunner::KIND, $search->id());
        if (null !== $running) {
            $this->jobs->cancel($running);
        }
        $job = $this->jobs->start(
            $search->study(),
            $user,
            $search->isGuided() ? GuidedRunner::KIND : SearchRunner::KIND,
            $search->id(),
            \sprintf('Search %d, keeping the best', $search->number()),
            Jobs::LONG,
            [SearchRunner::KEEP => []],
        );
        $search->goOn($search->asked(), $search->tries());
        $this->entities->flush();

        return $job;
    }

    /** @param non-empty-list<int> $places of the list that are to be tried */
    private function run(Search $search, User $user, array $places): Job
    {
        $size = max(1, min(self::MOST_OF_A_PIECE, (int) ceil(\count($places) / self::PIECES)));
        $pieces = [];
        foreach (array_chunk($places, $size) as $own) {
            $pieces[\sprintf('t%d', $own[0])] = ['places' => $own];
        }
        // One piece alone has nothing to join: the joining is a piece of its own then.
        $job = $this->jobs->start(
            $search->study(),
            $user,
            SearchRunner::KIND,
            $search->id(),
            \sprintf('Search %d, %s', $search->number(), self::learners(SearchPlan::fromArray($search->asked()))),
            Jobs::LONG,
            $pieces,
        );
        $this->entities->flush();

        return $job;
    }

    private static function learners(SearchPlan $plan): string
    {
        return implode(
            ', ',
            array_unique(array_map(static fn (array $s): string => mb_strtolower(Learners::title($s['learner'])), $plan->spaces)),
        );
    }
}
