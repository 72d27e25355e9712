<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/** What there is to say of an action list, named as in the reference (action-list). */
final class ActionListReport
{
    private const DEPTHS = [1, 2, 5, 10, 15, 20, 30, 40, 50, 75, 100];
    private const NAMES = ['low', 'middle', 'high'];

    /**
     * @param list<string> $ids
     * @param float        $flat what an event costs where there is no column of values
     *
     * @return array<string, mixed>
     */
    public static function of(EventTerms $terms, array $ids, int $capacity, Tiers $tiers, float $flat): array
    {
        $list = ActionList::of($terms);
        $best = $list->worthwhile();
        $chosen = $list->chosen(new Capacity($capacity));
        $cutoff = $list->bestCutOff($terms->chances);

        return [
            'rows' => \count($terms->chances),
            'expected_return' => $list->returns,
            'order' => array_map(static fn (int $r): int => $r + 1, $list->order),
            'best' => ['number' => $list->paying] + self::figures($terms, $best),
            'curve' => array_map(static fn (int $d): array => ['depth_percent' => $d] + self::figures(
                $terms,
                \array_slice($list->order, 0, intdiv($d * \count($terms->chances), 100)),
            ), self::DEPTHS),
            'with_capacity' => self::figures($terms, $chosen),
            'chosen_ids' => array_map(static fn (int $r): string => $ids[$r], $chosen),
            'tiers' => self::tiers($list, $terms, $tiers, $chosen),
            'best_chance_cutoff' => ['cutoff' => $cutoff['cutoff']] + self::figures($terms, $cutoff['rows']),
            'without_value' => self::flat($terms, $flat),
            'break_even' => [
                'chance_per_record' => array_map($terms->economics->breakEven(...), $terms->values),
                'deepest_number_not_losing' => $list->deepest(),
            ] + self::breakEven($terms, $best),
        ];
    }

    /**
     * @param list<int> $rows
     *
     * @return array<string, float|int|null>
     */
    private static function figures(EventTerms $terms, array $rows): array
    {
        $f = $terms->figures($rows);

        return [
            'actions' => $f->actions,
            'cost' => $f->cost,
            'events' => $f->events,
            'events_prevented' => $f->prevented,
            'gross_return' => $f->gross,
            'expected_return' => $f->return,
            'roi' => $f->roi,
            'variance' => $f->variance,
            'sd' => sqrt($f->variance),
            'low' => $f->low,
            'high' => $f->high,
            'chance_of_loss' => $f->loss,
        ];
    }

    /**
     * @param list<int> $chosen
     *
     * @return list<array<string, mixed>>
     */
    private static function tiers(ActionList $list, EventTerms $terms, Tiers $tiers, array $chosen): array
    {
        $isChosen = array_fill_keys($chosen, true);
        $out = [];
        foreach ($tiers->cells($terms->chances, $terms->values, array_keys($terms->chances)) as $c => $byValue) {
            foreach ($byValue as $v => $rows) {
                $f = $terms->figures($rows);
                $n = \count($rows);
                $out[] = [
                    'chance_tier' => self::NAMES[$c] ?? (string) $c,
                    'value_tier' => self::NAMES[$v] ?? (string) $v,
                    'count' => $n,
                    'cost' => $f->cost,
                    'events' => $f->events,
                    'events_prevented' => $f->prevented,
                    'expected_return' => $f->return,
                    'roi' => $f->roi,
                    'worthwhile' => \count(array_filter($rows, static fn (int $r): bool => $list->returns[$r] > 0.0)),
                    'chosen_with_capacity' => \count(array_filter($rows, static fn (int $r): bool => isset($isChosen[$r]))),
                    'mean_chance' => self::mean($terms->chances, $rows),
                    'mean_value' => self::mean($terms->values, $rows),
                ];
            }
        }

        return $out;
    }

    /**
     * @param list<float> $of
     * @param list<int>   $rows
     */
    private static function mean(array $of, array $rows): ?float
    {
        $sum = 0.0;
        foreach ($rows as $row) {
            $sum += $of[$row];
        }

        return [] === $rows ? null : $sum / \count($rows);
    }

    /** @return array<string, float|int|null> */
    private static function flat(EventTerms $terms, float $flat): array
    {
        $even = $terms->economics->breakEven($flat);
        $own = new EventTerms($terms->chances, array_fill(0, \count($terms->chances), $flat), $terms->economics);
        $rows = array_keys(array_filter($terms->chances, static fn (float $p): bool => null !== $even && $p >= $even));
        $f = $own->figures($rows);

        return [
            'break_even_chance' => $even,
            'actions' => $f->actions,
            'cost' => $f->cost,
            'events_prevented' => $f->prevented,
            'expected_return' => $f->return,
            'roi' => $f->roi,
        ];
    }

    /**
     * At which cost of an action, and which share of actions that work, the list would return nothing.
     *
     * @param list<int> $rows
     *
     * @return array{cost_per_action_at_best: ?float, response_share_at_best: ?float}
     */
    private static function breakEven(EventTerms $terms, array $rows): array
    {
        $even = Limits::of($terms, $rows);

        return ['cost_per_action_at_best' => $even->cost, 'response_share_at_best' => $even->works];
    }
}
