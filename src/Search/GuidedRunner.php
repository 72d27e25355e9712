<?php

declare(strict_types=1);

namespace App\Search;

use App\Job\FigureSoFar;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Job\TellsFigure;
use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Progress;
use Dokimos\Core\Search\Candidate;

/** The stages of a guided search: what can be made of the columns, the rungs, and the judging part. Each ends by beginning the next. */
final readonly class GuidedRunner implements PieceRunner, TellsFigure
{
    public const KIND = 'guided';
    /** Shares of the time: what is made of columns, each rung until its end. */
    private const UNTIL = [0.25, 0.55, 0.78, 0.92];
    private const WORKERS = 2;
    /** A try of the next rung takes so many times one of this: more rows, more folds, and those that climb are the slower ones. */
    private const DEARER = 4.0;
    private const FEWEST = 2;
    private const MOST = 400;

    public function __construct(
        private EntityManagerInterface $entities,
        private GuidedSearches $searches,
        private Handover $handover,
        private Standing $standing,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $search = $this->entities->find(Search::class, $job->subject());
        if (null === $search || Search::DONE === $search->state()) {
            return;
        }
        $guided = $this->searches->guided($search);
        $course = Course::fromArray($search->asked());
        if (Piece::JOIN === $piece->key()) {
            $this->next($search, $job, $guided, $course);
        } elseif (SearchRunner::KEEP === $piece->key()) {
            $this->judge($search, $job, $guided, $course);
        } elseif (Course::MAKING === $piece->key()) {
            $this->make($search, $job, $guided, $course, $progress);
        } elseif (\is_int($piece->payload()['final'] ?? null)) {
            $this->final($search, $guided, $course, $piece->payload()['final'], $progress);
            1 < $job->pieces() || $this->next($search, $job, $guided, $course);
        } else {
            $this->weigh($search, $guided, $course, $piece, $progress);
            1 < $job->pieces() || $this->next($search, $job, $guided, $course);
        }
    }

    private function make(Search $search, Job $job, Guided $guided, Course $course, Progress $progress): void
    {
        $begun = microtime(true);
        $weighed = $guided->making(
            $progress,
            static fn (): bool => $course->left(self::UNTIL[0]) > 0.0,
            $course->ideas ?? Guided::ALL_IDEAS,
        );
        $tries = $course->tries;
        if (null !== $course->minutes) {
            // One idea costs as much as some tries of the first rung.
            $try = max(0.02, (microtime(true) - $begun) / max(1, \count($weighed) + 1) / 4);
            $room = $course->left(self::UNTIL[1]) * self::WORKERS / $try;
            $tries = (int) max(self::FEWEST * \count($course->learners), min(self::MOST, $room));
        }
        $course = $course->with([
            'weighed' => $weighed,
            'ideas' => \count($weighed),
            'tries' => $tries,
            'judging' => \count($guided->judging),
            'choosing' => \count($guided->choosing),
            'stage' => Course::RUNGS[0],
            'rungs' => [range(0, $tries - 1)],
        ]);
        $search->stand($course->toArray(), $tries);
        $this->searches->rung($search, $job->user(), 0, $guided);
    }

    private function weigh(Search $search, Guided $guided, Course $course, Piece $piece, Progress $progress): void
    {
        $rung = \is_int($piece->payload()['rung'] ?? null) ? $piece->payload()['rung'] : 0;
        $places = array_values(array_filter(
            \is_array($piece->payload()['places'] ?? null) ? $piece->payload()['places'] : [],
            is_int(...),
        ));
        $all = $guided->candidates($course->tries, $course->weighed);
        $places = array_values(array_diff($places, array_keys($this->values($search, $rung))));
        $own = array_map(static fn (int $p): Candidate => $all[$p], $places);
        if ([] === $own) {
            return;
        }
        foreach ($guided->weigh($own, $rung, $course->weighed, $progress) as $i => $one) {
            $try = $own[$i];
            $this->entities->persist(new SearchTry(
                $search,
                $rung * Course::STRIDE + $places[$i],
                $try->space,
                $try->variant,
                $rung,
                $try->settings,
                $one['value'],
                null,
                null,
                $one['seconds'],
                $one['why'],
                null,
                $one['reading'],
            ));
        }
        try {
            $this->entities->flush();
        } catch (UniqueConstraintViolationException) {
            $this->entities->clear();
        }
    }

    /** @return array<int, ?float> by place in the list of the first rung */
    private function values(Search $search, int $rung): array
    {
        /** @var list<array{place: int, value: ?float}> $rows */
        $rows = $this->entities->createQuery('SELECT t.place, t.value FROM App\Search\SearchTry t WHERE t.search = :search AND t.choice = :rung')->setParameter('search', $search)->setParameter('rung', $rung)->getArrayResult();
        $values = [];
        foreach ($rows as $row) {
            $values[$row['place'] - $rung * Course::STRIDE] = $row['value'];
        }
        ksort($values);

        return $values;
    }

    private function next(Search $search, Job $job, Guided $guided, Course $course): void
    {
        if (Course::JUDGING === $course->stage) {
            $this->handover->finish($search, $job, $guided, $course);

            return;
        }
        $rung = (int) array_search($course->stage, Course::RUNGS, true);
        if ($rung + 1 >= \count(Guided::RUNGS)) {
            $this->judge($search, $job, $guided, $course);

            return;
        }
        if (null !== $course->minutes) {
            $course = $course->with(['room' => [...$course->room, $this->room($search, $course, $rung)]]);
        }
        $most = $course->room[$rung] ?? null;
        $values = $this->values($search, $rung);
        $places = 0 === $most ? [] : $guided->survivors($values, $guided->candidates($course->tries, $course->weighed), $rung, $most);
        if ([] === $places) {
            $this->judge($search, $job, $guided, $course);

            return;
        }
        $course = $course->with(['stage' => Course::RUNGS[$rung + 1], 'rungs' => [...$course->rungs, $places]]);
        $search->stand($course->toArray(), $search->tries() + \count($places));
        $this->searches->rung($search, $job->user(), $rung + 1, $guided);
    }

    /** Tries that the deadline leaves room for on the rung after this one; 0 = it is over. */
    private function room(Search $search, Course $course, int $rung): int
    {
        if ($course->left() < 0.0) {
            return 0;
        }
        $mean = $this->entities->createQuery('SELECT AVG(t.seconds) FROM App\Search\SearchTry t WHERE t.search = :search AND t.choice = :rung')->setParameter('search', $search)->setParameter('rung', $rung)->getSingleScalarResult();
        $try = max(0.02, self::DEARER * (is_numeric($mean) ? (float) $mean : 1.0));

        return (int) max(1, $course->left(self::UNTIL[min($rung + 2, \count(self::UNTIL) - 1)] ?? 1.0) * self::WORKERS / $try);
    }

    /** The best of each learner on the highest rung that has any. */
    private function judge(Search $search, Job $job, Guided $guided, Course $course): void
    {
        $all = $guided->candidates($course->tries, $course->weighed);
        $best = [];
        for ($rung = \count(Guided::RUNGS) - 1; $rung >= 0; --$rung) {
            // A learner that did not climb so far is there with the best of a lower rung, after those that did.
            foreach ($guided->families($this->values($search, $rung), $all) as $place) {
                $best[$all[$place]->space] ??= $place;
            }
        }
        if ([] === $best) {
            $search->stop('No try could be fitted; the list says why.');
            $this->entities->flush();

            return;
        }
        $places = \array_slice(array_values($best), 0, Guided::FAMILIES);
        $search->stand(
            $course->with([
                'stage' => Course::JUDGING,
                'finals' => array_map(static fn (int $p): array => ['place' => $p], $places),
            ])->toArray(),
            $search->tries(),
        );
        $this->searches->judge($search, $job->user(), $places);
    }

    private function final(Search $search, Guided $guided, Course $course, int $place, Progress $progress): void
    {
        $try = $guided->candidates($course->tries, $course->weighed)[$place];
        $key = \count(Guided::RUNGS) * Course::STRIDE + $place;
        if (null !== $this->entities->getRepository(SearchTry::class)->findOneBy(['search' => $search, 'place' => $key])) {
            return;
        }
        $begun = microtime(true);
        $interval = $guided->judged($try, $course->weighed, $progress);
        $this->entities->persist(new SearchTry(
            $search,
            $key,
            $try->space,
            $try->variant,
            \count(Guided::RUNGS),
            $try->settings,
            $interval->value,
            $interval->low,
            $interval->high,
            microtime(true) - $begun,
            null,
            null,
        ));
        $this->entities->flush();
    }

    public function figureSoFar(Job $job): ?FigureSoFar
    {
        return $this->standing->best($job);
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $this->standing->stopped($job, $failure);
    }
}
