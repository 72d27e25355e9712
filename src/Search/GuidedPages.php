<?php

declare(strict_types=1);

namespace App\Search;

use App\Job\Job;
use App\Job\Jobs;
use App\Trial\FigureView;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Learners\Learners;

/** A guided search as its page shows it. */
final readonly class GuidedPages
{
    private const SHOWN = 60;

    public function __construct(private EntityManagerInterface $entities, private Jobs $jobs)
    {
    }

    public function view(Search $search): GuidedView
    {
        $course = Course::fromArray($search->asked());
        $figure = Figures::named($search->question()->task(), $search->figure());
        $job = $this->jobs->underWay(GuidedRunner::KIND, $search->id());
        /** @var ?Job $last */
        $last = $this->entities->getRepository(Job::class)->findOneBy(
            ['kind' => GuidedRunner::KIND, 'subject' => $search->id()],
            ['id' => 'DESC'],
        );
        /** @var list<array{place: int, space: int, variant: int, choice: int, settings: array<string, mixed>, value: ?float, seconds: float, why: ?string, reading: ?int}> $all */
        $all = $this->entities->createQuery('SELECT t.place, t.space, t.variant, t.choice, t.settings, t.value, t.seconds, t.why, t.reading FROM App\Search\SearchTry t WHERE t.search = :search AND t.choice < :rungs')->setParameter('search', $search)->setParameter('rungs', \count(Guided::RUNGS))->getArrayResult();
        usort(
            $all,
            static fn (array $a, array $b): int => $b['choice'] <=> $a['choice'] ?: $figure->order($a['value'], $b['value']) ?: $a['place'] <=> $b['place'],
        );
        $rungs = [];
        foreach ($course->rungs as $i => $places) {
            $own = array_values(array_filter($all, static fn (array $t): bool => $t['choice'] === $i));
            $shape = Guided::RUNGS[$i] ?? Guided::RUNGS[0];
            $rungs[] = new RungView(
                Course::RUNGS[$i] ?? '',
                (int) ceil($shape['rows'] * $course->choosing),
                $shape['folds'],
                \count($places),
                \count($own),
                array_sum(array_column($own, 'seconds')),
                $own[0]['value'] ?? null,
            );
        }
        $tries = array_map(
            static fn (array $t): ClimbView => new ClimbView(
                $t['place'] - $t['choice'] * Course::STRIDE,
                $t['choice'] + 1,
                $course->learners[$t['space']],
                Learners::title($course->learners[$t['space']]),
                1 === $t['variant'],
                $t['settings'],
                $t['value'],
                $t['reading'],
                $t['seconds'],
                $t['why'],
            ),
            \array_slice($all, 0, self::SHOWN),
        );

        return new GuidedView(
            $search->id(), $search->study()->id(), $search->number(), $search->state(), $search->failure(), $search->isStale(), FigureView::of($figure), $course->stage, $course->minutes,
            (null === $job ? $last?->endedAt() ?? microtime(true) : microtime(true)) - $course->begun, $course->reading, array_map(
                Learners::title(...),
                $course->learners,
            ),
            array_map(IdeaView::of(...), $course->weighed), $rungs, $tries, $this->finals($course), $course->judging, $course->choosing, $search->trial()?->variant()?->letter(), $this->command($search, $course), $job?->id(),
        );
    }

    /** @return list<FinalView> */
    private function finals(Course $course): array
    {
        $views = [];
        foreach ($course->finals as $final) {
            if (!\is_string($final['learner'] ?? null)) {
                continue;
            }
            /** @var array{learner: string, searching: float|int, value: float|int|null, low: float|int|null, high: float|int|null, reading: ?int, trialId?: int} $f */
            $f = $final;
            $float = static fn (float|int|null $v): ?float => null === $v ? null : (float) $v;
            $trial = isset($f['trialId']) ? $this->entities->find(Trial::class, $f['trialId']) : null;
            $views[] = new FinalView(
                $f['learner'],
                Learners::title($f['learner']),
                (float) $f['searching'],
                $float($f['value']),
                $float($f['low']),
                $float($f['high']),
                $f['reading'],
                $trial?->id(),
                $trial?->number(),
            );
        }

        return $views;
    }

    /** With the counts that it had, so that it comes to the same. */
    private function command(Search $search, Course $course): string
    {
        $question = $search->question();
        $parts = [
            'bin/console dokimos:search open-rows.csv',
            '--target='.($question->target() ?? ''),
            ...(null === $question->event() ? [] : ['--event='.$question->event()]),
            '--figure='.$search->figure(),
            '--seed='.$course->seed,
        ];
        if ($course->tries > 0) {
            $parts[] = '--tries='.$course->tries;
            $parts[] = '--ideas='.\count($course->weighed);
            $parts[] = '--rungs='.implode(',', array_map(\count(...), \array_slice($course->rungs, 1)));
        }
        $without = array_diff(Guided::learnersFor($question->task()), $course->learners);

        return implode(
            ' ',
            [
                ...$parts,
                ...([] === $without ? [] : ['--without-learners='.implode(',', $without)]),
                ...([] === $course->steps ? [] : ['--preparation=steps.json']),
            ],
        );
    }
}
