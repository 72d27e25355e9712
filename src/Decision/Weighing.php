<?php

declare(strict_types=1);

namespace App\Decision;

use App\Score\Scoring;
use App\Table\TableColumn;
use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\ClassTerms;
use Dokimos\Core\Act\ComparisonGroup;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\Limits;
use Dokimos\Core\Act\MeasuredEffect;
use Dokimos\Core\Act\ReturnDraws;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Task;
use Psr\Cache\CacheItemPoolInterface;

/** Tells what a decision costs and brings, under its own terms and under others. */
final readonly class Weighing
{
    private const POINTS = 160;
    private const BINS = 40;

    private const KEPT = 86400 * 30;
    private const FORM = 3;

    public function __construct(private Lists $lists, private CacheItemPoolInterface $pool)
    {
    }

    /** What was worked out once for these terms is kept: of a million records it takes seconds. */
    public function of(Decision $decision): DecisionView
    {
        $mark = [
            self::FORM,
            $decision->id(),
            $decision->version(),
            $decision->scoring()->id(),
            $decision->terms()->toArray(),
            $decision->measured(),
        ];
        $item = $this->pool->getItem('decision.'.Stamp::of($mark));
        $kept = $item->isHit() ? $item->get() : null;
        if ($kept instanceof DecisionView) {
            return $kept;
        }
        $view = $this->worked($decision);
        $this->pool->save($item->set($view)->expiresAfter(self::KEPT));

        return $view;
    }

    private function worked(Decision $decision): DecisionView
    {
        $scoring = $decision->scoring();
        $terms = $decision->terms();
        $listed = $this->lists->of($scoring, $terms);
        $whole = $this->whole($decision, $listed);
        $columns = $scoring->table()->columns();

        return new DecisionView(
            $decision->id(),
            $decision->version(),
            $decision->name(),
            $decision->study()->id(),
            $scoring->id(),
            $scoring->table()->name(),
            $scoring->trial()->question()->table() === $scoring->table(),
            $scoring->trial()->number(),
            $scoring->task(),
            $scoring->target(),
            self::event($decision),
            $terms,
            $scoring->table()->rows(),
            $scoring->scored(),
            $listed->unknown,
            $listed->list->paying,
            $whole->acted,
            $whole->drawn,
            $whole->paying,
            $whole->all,
            $whole->none,
            \count($listed->chosen->left),
            $whole->visible,
            $whole->curve,
            $whole->cutOff,
            $whole->histogram,
            $whole->actedHistogram,
            self::cells($listed),
            self::tiers($listed),
            $whole->assumptions,
            $whole->limits?->cost,
            $whole->limits?->works,
            $whole->actions,
            self::measured($decision),
            Lists::key($scoring->table())?->name(),
            array_map(static fn (TableColumn $c): string => $c->name(), $columns),
            array_values(array_map(
                static fn (TableColumn $c): string => $c->name(),
                array_filter($columns, static fn (TableColumn $c): bool => Kind::Number === $c->kind()),
            )),
            $scoring->classes(),
        );
    }

    /** What an edge of a tier does not touch is kept by the terms without edges: an edge is moved often. */
    private function whole(Decision $decision, Listed $listed): WholeList
    {
        $terms = $decision->terms();
        $item = $this->pool->getItem('list.'.Stamp::of([self::FORM, $decision->scoring()->id(), $terms->withoutEdges()]));
        $kept = $item->isHit() ? $item->get() : null;
        if ($kept instanceof WholeList) {
            return $kept;
        }
        $own = $listed->terms;
        $all = $own->figures($listed->list->order);
        $whole = new WholeList(
            ListFiguresView::of($own->figures($listed->chosen->acted)),
            $this->drawn($decision, $listed),
            ListFiguresView::of($own->figures($listed->list->worthwhile())),
            ListFiguresView::of($all),
            self::none($listed),
            self::visible($listed),
            self::curve($listed->list),
            $this->cutOff($decision->scoring(), $listed, $all->events),
            self::histogram($listed, null),
            self::histogram($listed, $listed->chosen->acted),
            self::assumptions($listed, $terms),
            $own instanceof EventTerms ? Limits::of($own, $listed->chosen->acted) : null,
            self::actions($listed, $terms),
        );
        $this->pool->save($item->set($whole)->expiresAfter(self::KEPT));

        return $whole;
    }

    private static function event(Decision $decision): string
    {
        $scoring = $decision->scoring();
        $terms = $decision->terms();

        return match ($scoring->task()) {
            Task::TWO => \sprintf('%s "%s"', $scoring->target(), $scoring->event()),
            Task::NUMBER => \sprintf('%s %s %s', $scoring->target(), $terms->side, (string) $terms->limit),
            default => $scoring->target(),
        };
    }

    private function drawn(Decision $decision, Listed $listed): ?DrawnView
    {
        if (!$listed->terms instanceof EventTerms || [] === $listed->chosen->acted) {
            return null;
        }
        $terms = $decision->terms();
        $drawn = ReturnDraws::of(
            $listed->terms,
            $listed->chosen->acted,
            [$terms->worksLow, $terms->worksHigh],
            $this->lists->holds($decision->scoring()->trial()),
            $terms->seed,
        );

        return new DrawnView($drawn->low, $drawn->high, $drawn->loss, $drawn->preventedLow, $drawn->preventedHigh);
    }

    private static function none(Listed $listed): float
    {
        $lost = 0.0;
        foreach ($listed->terms instanceof EventTerms ? $listed->list->order : [] as $row) {
            $lost += $listed->chances[$row] * $listed->values[$row];
        }

        return $lost;
    }

    private static function visible(Listed $listed): ?float
    {
        if ([] === $listed->chosen->left || !$listed->terms instanceof EventTerms) {
            return null;
        }
        $events = $listed->terms->figures($listed->chosen->left)->events;

        return ComparisonGroup::visible(
            \count($listed->chosen->acted),
            \count($listed->chosen->left),
            $events / \count($listed->chosen->left),
        );
    }

    /** @return list<CurvePointView> */
    private static function curve(ActionList $list): array
    {
        $sums = $list->sums();
        $n = \count($sums) - 1;
        $points = [];
        for ($k = 0; $k <= self::POINTS; ++$k) {
            $points[(int) round($k * $n / self::POINTS)] = true;
        }
        $points[$list->paying] = true;
        ksort($points);

        return array_map(static fn (int $k): CurvePointView => new CurvePointView($k, $sums[$k]), array_keys($points));
    }

    private function cutOff(Scoring $scoring, Listed $listed, float $events): ?CutOffView
    {
        if (!$listed->terms instanceof EventTerms) {
            return null;
        }
        $best = $listed->list->bestCutOff($listed->chances, $this->lists->highestFirst($scoring));
        if (null === $best['cutoff']) {
            return null;
        }
        $figures = $listed->terms->figures($best['rows']);

        return new CutOffView(
            $best['cutoff'],
            ListFiguresView::of($figures),
            $figures->actions > 0 ? $figures->events / $figures->actions : null,
            $events > 0.0 ? $figures->events / $events : null,
        );
    }

    /**
     * @param ?list<int> $rows all when null
     *
     * @return list<int>
     */
    private static function histogram(Listed $listed, ?array $rows): array
    {
        $bins = array_fill(0, self::BINS, 0);
        foreach ($rows ?? $listed->list->order as $row) {
            ++$bins[min(self::BINS - 1, (int) floor(self::BINS * $listed->chances[$row]))];
        }

        return array_values($bins);
    }

    /** @return list<TierCellView> */
    private static function cells(Listed $listed): array
    {
        $out = [];
        $counts = $listed->tiers->counts($listed->chances, $listed->values, $listed->list->order);
        foreach ($listed->tiers->cells($listed->chances, $listed->values, $listed->chosen->acted) as $chance => $byValue) {
            foreach ($byValue as $value => $acted) {
                $out[] = new TierCellView(
                    $chance,
                    $value,
                    $listed->tiers->rank($chance, $value),
                    $counts[$chance][$value],
                    \count($acted),
                    $listed->terms->figures($acted)->return,
                );
            }
        }

        return $out;
    }

    /** @return list<TierLineView> */
    private static function tiers(Listed $listed): array
    {
        $byRank = [];
        foreach ($listed->chosen->acted as $row) {
            $byRank[$listed->rank($row)][] = $row;
        }
        ksort($byRank);

        return array_map(
            static fn (int $rank, array $rows): TierLineView => new TierLineView(
                $rank,
                ListFiguresView::of($listed->terms->figures($rows)),
            ),
            array_keys($byRank),
            array_values($byRank),
        );
    }

    /** @return list<AssumptionView> */
    private static function assumptions(Listed $listed, DecisionTerms $terms): array
    {
        $own = $listed->terms;
        if (!$own instanceof EventTerms) {
            return [];
        }
        $economics = $own->economics;
        $others = [
            ['works', $terms->worksLow, $own->under($economics->working($terms->worksLow))],
            ['works', $terms->worksHigh, $own->under($economics->working($terms->worksHigh))],
            ['cost', 1.5 * $terms->cost, $own->under($economics->costing(1.5 * $terms->cost))],
            ['cost', 0.5 * $terms->cost, $own->under($economics->costing(0.5 * $terms->cost))],
            ['worth', 0.75, self::worth($own, 0.75)],
            ['chance', 0.8, self::chance($own, 0.8)],
        ];
        $out = [];
        foreach ($others as [$what, $value, $under]) {
            [$paying, $actions, $return] = ActionList::outlook($under, $listed->capacity);
            $out[] = new AssumptionView($what, $value, $paying, $actions, $return);
        }

        return $out;
    }

    private static function worth(EventTerms $terms, float $share): EventTerms
    {
        return new EventTerms($terms->chances, array_map(static fn (float $v): float => $share * $v, $terms->values), $terms->economics);
    }

    private static function chance(EventTerms $terms, float $share): EventTerms
    {
        return new EventTerms(array_map(static fn (float $p): float => $share * $p, $terms->chances), $terms->values, $terms->economics);
    }

    /** @return list<ActionLineView> */
    private static function actions(Listed $listed, DecisionTerms $terms): array
    {
        $own = $listed->terms;
        if (!$own instanceof ClassTerms) {
            return [];
        }
        $rows = [];
        foreach ($listed->chosen->acted as $row) {
            $rows[$own->actions[$row]][] = $row;
        }

        return array_map(
            static fn (int $action, array $a): ActionLineView => new ActionLineView(
                $a['name'],
                \count($rows[$action] ?? []),
                $own->figures($rows[$action] ?? [])->return,
            ),
            array_keys($terms->actions),
            array_values($terms->actions),
        );
    }

    private static function measured(Decision $decision): ?MeasuredView
    {
        /** @var array{table: string, acted: int, actedEvents: int, left: int, leftEvents: int, missing: int}|null $kept */
        $kept = $decision->measured();

        return null === $kept ? null : MeasuredView::of(
            $kept['table'],
            MeasuredEffect::of($kept['acted'], $kept['actedEvents'], $kept['left'], $kept['leftEvents']),
            $decision->terms(),
            $kept['missing'],
        );
    }
}
