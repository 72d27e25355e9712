<?php

declare(strict_types=1);

namespace App\Search;

use App\Job\Jobs;
use App\Study\Study;
use App\Trial\FigureView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Search\Effects;

/** A search as its page shows it. */
final readonly class SearchPages
{
    /** Tries that the ledger shows. */
    private const SHOWN = 100;
    /** Below so many tries nothing is said of what settings did. */
    private const TOLD_FROM = 6;
    private const FAILURES = 5;

    public function __construct(private EntityManagerInterface $entities, private Jobs $jobs)
    {
    }

    /** @return list<SearchLine> newest first */
    public function of(Study $study): array
    {
        $lines = [];
        foreach ($this->entities->getRepository(Search::class)->findBy(['question' => $study->id()], ['number' => 'DESC']) as $search) {
            $figure = Figures::named($search->question()->task(), $search->figure());
            /** @var array{best: float|int|string|null, done: int|string} $told */
            $told = $this->entities->createQuery(\sprintf(
                'SELECT %s(t.value) AS best, COUNT(t.id) AS done FROM App\Search\SearchTry t WHERE t.search = :search',
                $figure->more ? 'MAX' : 'MIN',
            ))->setParameter('search', $search)->getSingleResult();
            $learners = $search->isGuided() ? Course::fromArray($search->asked())->learners : array_column(
                SearchPlan::fromArray($search->asked())->spaces,
                'learner',
            );
            $corrected = $search->result()['value'] ?? null;
            $lines[] = new SearchLine(
                $search->id(), $search->number(), array_values(array_unique(array_map(Learners::title(...), $learners))), $search->state(), (int) $told['done'], $search->tries(),
                null === $told['best'] ? null : (float) $told['best'], is_numeric($corrected) ? (float) $corrected : null, $search->trial()?->number(), $search->trial()?->id(), $search->isStale(), $search->isGuided(),
            );
        }

        return $lines;
    }

    public function view(Search $search): SearchView
    {
        $figure = Figures::named($search->question()->task(), $search->figure());
        $plan = SearchPlan::fromArray($search->asked());
        // Answers are not read: a list of tries is small.
        /** @var list<array{id: int, space: int, variant: int, choice: int, settings: array<string, mixed>, value: ?float, seconds: float}> $all */
        $all = $this->entities->createQuery('SELECT t.id, t.space, t.variant, t.choice, t.settings, t.value, t.seconds FROM App\Search\SearchTry t WHERE t.search = :search')->setParameter('search', $search)->getArrayResult();
        $known = array_values(array_filter($all, static fn (array $t): bool => null !== $t['value']));
        $result = $search->result() ?? [];
        $float = static fn (string $key): ?float => is_numeric($result[$key] ?? null) ? (float) $result[$key] : null;
        $best = $this->tries(
            $search,
            \sprintf('t.value IS NOT NULL ORDER BY t.value %s, t.place ASC', $figure->more ? 'DESC' : 'ASC'),
            self::SHOWN,
        );
        [$effects, $map] = [] === $best ? [[], null] : $this->effects($plan, $known, $best[0], $figure);
        $job = $this->jobs->underWay(SearchRunner::KIND, $search->id());
        $view = static fn (SearchTry $t): TryView => TryView::of($t, $plan);

        return new SearchView(
            $search->id(), $search->study()->id(), $search->number(), $search->state(), $search->failure(), $search->isStale(), FigureView::of($figure), $plan->way, \count($all), $search->tries(),
            \count($all) - \count($known), array_sum(array_column($all, 'seconds')), array_map($view, $best), array_map(
                $view,
                $this->tries($search, 't.value IS NULL ORDER BY t.place ASC', self::FAILURES),
            ), $effects, $map,
            $float('searching') ?? ([] === $best ? null : $best[0]->value()), $float('luck'), $float('value'), $float('low'), $float('high'),
            $search->trial()?->id(), $search->trial()?->number(), $search->asked(), $job?->id(),
        );
    }

    /** @return list<SearchTry> */
    private function tries(Search $search, string $where, int $most): array
    {
        /** @var list<SearchTry> */
        return $this->entities->createQuery('SELECT t FROM App\Search\SearchTry t WHERE t.search = :search AND '.$where)->setParameter('search', $search)->setMaxResults($most)->getResult();
    }

    /**
     * @param list<array{space: int, variant: int, choice: int, settings: array<string, mixed>, value: ?float}> $known
     *
     * @return array{list<EffectView>, ?MapView}
     */
    private function effects(SearchPlan $plan, array $known, SearchTry $best, Figure $figure): array
    {
        $own = array_values(array_filter($known, static fn (array $t): bool => $t['space'] === $best->space()));
        if (\count($own) < self::TOLD_FROM) {
            return [[], null];
        }
        $space = $plan->spaces()[$best->space()];
        $settings = array_map(
            static fn (array $t): array => $t['settings'] + [
                'variant' => $plan->variants[$t['variant']]['letter'],
                'columns' => $plan->named[$t['choice']] ?? '',
            ],
            $own,
        );
        $figures = array_map(static fn (array $t): float => (float) $t['value'], $own);
        $effects = [];
        foreach ($space->varied as $vary) {
            $value = $best->settings()[$vary->setting->name] ?? null;
            $edge = \is_scalar($value) ? $vary->edge($value) : 0;
            $effects[] = self::effect(
                $vary->setting->name,
                $vary->setting->label,
                Effects::of($vary->setting->name, $settings, $figures),
                $figure,
                $edge,
                0 === $edge ? null : $vary->widened($edge),
            );
        }
        foreach ([
            'variant' => [\count($plan->variants), 'Preparation'],
            'columns' => [\count($plan->choices), 'Columns'],
        ] as $name => [$count, $label]) {
            if ($count > 1) {
                $effects[] = self::effect($name, $label, Effects::of($name, $settings, $figures), $figure, 0, null);
            }
        }
        usort($effects, static fn (EffectView $a, EffectView $b): int => $b->share <=> $a->share);
        if (\count($effects) < 2) {
            return [$effects, null];
        }
        $map = Effects::map($effects[0]->name, $effects[1]->name, $settings, $figures, $figure->more);

        return [$effects, new MapView($effects[0]->label, $effects[1]->label, $map['x'], $map['y'], $map['cells'])];
    }

    /**
     * @param array{share: float, parts: list<array{label: string, tries: int, lowest: float, quarter: float, median: float, threeQuarters: float, highest: float}>} $told
     * @param array<string, mixed>|null                                                                                                                              $widened
     */
    private static function effect(string $name, string $label, array $told, Figure $figure, int $edge, ?array $widened): EffectView
    {
        $parts = array_map(
            static fn (array $p): PartView => new PartView(
                $p['label'],
                $p['tries'],
                $p['lowest'],
                $p['quarter'],
                $p['median'],
                $p['threeQuarters'],
                $p['highest'],
                $figure->more ? $p['highest'] : $p['lowest'],
            ),
            $told['parts'],
        );

        return new EffectView($name, $label, $told['share'], $parts, $edge, $widened);
    }
}
