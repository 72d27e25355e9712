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
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Prepare\Preparation;

/**
 * Begins guided searches, and each of their stages.
 *
 * @phpstan-import-type Counts from Course
 */
final readonly class GuidedSearches
{
    private const MOST_OF_A_PIECE = 4;

    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private Ground $ground,
        private Questions $questions,
        private Logbook $logbook,
        private Store $store,
    ) {
    }

    public function start(Study $study, User $user, Variant $variant, GuidedRequest $request): Job
    {
        if ($variant->study() !== $study) {
            throw Problem::notFound('variant');
        }
        if (null === $request->minutes && null === $request->tries) {
            throw Problem::invalid('Give a deadline in minutes, or a number of tries.', 'minutes');
        }
        $this->ground->target($study);
        $learners = Guided::learnersFor($this->questions->of($study)->task(), $request->without);
        if ([] === $learners) {
            throw Problem::invalid('No learner is left that may be used.', 'without');
        }
        $steps = array_values(array_filter($variant->steps(), static fn (array $s): bool => true !== ($s['off'] ?? false)));

        return $this->begin($study, $user, new Course(
            $variant->id(),
            $request->minutes,
            $request->tries ?? 0,
            $request->reading,
            $learners,
            $request->seed,
            $steps,
            $this->ground->inputs($study),
            microtime(true),
        ));
    }

    /**
     * One that was done, once more: by the counts that it came to, not by its deadline, which another machine would come further in.
     *
     * @param Counts $then
     */
    public function again(Study $study, User $user, Variant $variant, array $then): Job
    {
        $this->ground->target($study);
        $learners = Guided::learnersFor($this->questions->of($study)->task());
        if ([] !== $unknown = array_diff($then['learners'], $learners)) {
            throw Problem::invalid(\sprintf('No guided search uses "%s" here.', implode('", "', $unknown)), 'file');
        }

        return $this->begin($study, $user, new Course(
            $variant->id(),
            null,
            $then['tries'],
            $then['reading'],
            $then['learners'],
            $then['seed'],
            Preparation::fromArray($then['steps'])->toArray(),
            $this->ground->inputs($study),
            microtime(true),
            ideas: $then['ideas'],
            room: $then['room'],
        ));
    }

    private function begin(Study $study, User $user, Course $course): Job
    {
        $question = $this->questions->of($study);

        return $this->entities->getConnection()->transactional(function () use ($study, $user, $question, $course): Job {
            $this->store->alone('searches', $study->id());
            $last = $this->entities->createQuery('SELECT MAX(s.number) FROM App\Search\Search s WHERE s.question = :question')->setParameter('question', $study->id())->getSingleScalarResult();
            $search = new Search(
                $question,
                1 + (int) (is_numeric($last) ? $last : 0),
                $question->hash(),
                $question->figure()->key,
                $course->toArray(),
                0,
                Search::GUIDED,
            );
            $this->entities->persist($search);
            $this->entities->flush();
            $limit = null === $course->minutes ? \sprintf('%d tries', $course->tries) : \sprintf('%g minutes', $course->minutes);
            $this->logbook->write(
                $study,
                $user,
                'trials',
                \sprintf(
                    'Guided search %d began: %s, by %s, with %d learners; a reading of %s.',
                    $search->number(),
                    $limit,
                    $question->figure()->name,
                    \count($course->learners),
                    null === $course->reading ? 'any length' : 'at most '.$course->reading,
                ),
            );

            return $this->stage($search, $user, 'what can be made of the columns', [Course::MAKING => []]);
        });
    }

    /** The whole thing on the open rows of its study, as its core knows it. */
    public function guided(Search $search): Guided
    {
        $study = $search->study();
        $question = $search->question();
        $course = Course::fromArray($search->asked());
        [$table, $outcome, $rows] = $this->ground->open($study, $this->ground->needed($study, $course->steps, $course->inputs));
        $split = $question->plan() ?? throw new \LogicException('A search has a split plan.');

        return new Guided(
            $table,
            $course->inputs,
            $outcome,
            $question->classes(),
            $this->ground->weights($study, $rows),
            $split->apart($this->ground->labels($study, $rows)),
            $course->steps,
            Figures::named($question->task(), $search->figure()),
            $course->learners,
            $course->seed,
        );
    }

    /** The tries of a rung, in pieces of the same preparation. */
    public function rung(Search $search, User $user, int $rung, Guided $guided): Job
    {
        $course = Course::fromArray($search->asked());
        $all = $guided->candidates($course->tries, $course->weighed);
        $pieces = [];
        foreach ([2, 1, 0] as $variant) {
            $own = array_values(array_filter($course->rungs[$rung] ?? [], static fn (int $p): bool => $all[$p]->variant === $variant));
            foreach (array_chunk($own, 0 === $rung ? self::MOST_OF_A_PIECE : 1) as $places) {
                $pieces[\sprintf('g%d.%d', $rung, $places[0])] = ['rung' => $rung, 'places' => $places];
            }
        }

        return $this->stage($search, $user, \sprintf('%s of %d', Course::RUNGS[$rung], \count(Course::RUNGS)), $pieces);
    }

    /** @param non-empty-list<int> $places */
    public function judge(Search $search, User $user, array $places): Job
    {
        $pieces = [];
        foreach ($places as $i => $place) {
            $pieces['j'.$i] = ['final' => $place];
        }

        return $this->stage($search, $user, 'judging the best', $pieces);
    }

    /** @param array<string, array<string, mixed>> $pieces */
    private function stage(Search $search, User $user, string $what, array $pieces): Job
    {
        $job = $this->jobs->start(
            $search->study(),
            $user,
            GuidedRunner::KIND,
            $search->id(),
            \sprintf('Guided search %d, %s', $search->number(), $what),
            Jobs::LONG,
            $pieces,
        );
        $this->entities->flush();

        return $job;
    }
}
