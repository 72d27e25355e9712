<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** What goes with the target: columns ranked on one scale, with their direction, and those left out with the reason. */
final class TargetRelations
{
    private const ENOUGH = 30;

    /** @return list<TargetRelation> the strongest first, then those left out in the order of the table */
    public static function of(Subject $subject): array
    {
        $event = $subject->event;
        if (null === $event) {
            return [];
        }
        $ranked = $leftOut = $p = [];
        foreach ($subject->table->columns() as $name => $column) {
            $name = (string) $name;
            if ($name === $subject->target) {
                continue;
            }
            $late = \in_array($name, $subject->late, true);
            $why = self::whyNot($subject->use($name), $column);
            $strength = null === $why ? TargetStrength::of($column, $event) : null;
            if (null === $strength) {
                $leftOut[] = new TargetRelation($name, null, null, '', $late, $why ?? 'too few records of either kind');
                continue;
            }
            if (!$late) {
                $p[$name] = $strength->p;
            }
            $ranked[$name] = [$strength, $late];
        }
        uasort($ranked, static fn (array $a, array $b) => $b[0]->auc <=> $a[0]->auc);
        $adjusted = TargetStrength::adjusted($p);
        $out = [];
        foreach ($ranked as $name => [$strength, $late]) {
            $name = (string) $name;
            $sure = ($adjusted[$name] ?? $strength->p) < 0.05;
            $out[] = new TargetRelation($name, $strength, $adjusted[$name] ?? null, $sure ? self::direction($name, $subject->table->column($name), $event, (string) $subject->eventName) : '', $late, null);
        }

        return [...$out, ...$leftOut];
    }

    private static function whyNot(ColumnUse $use, Column $column): ?string
    {
        return match (true) {
            ColumnUse::Aside === $use => 'set aside',
            ColumnUse::Key === $use || Kind::Identifier === $column->kind() => 'a key tells records apart, nothing more',
            Kind::Text === $column->kind() => 'free text: its terms can be looked at after Preparation',
            ColumnUse::Input !== $use => 'used as '.$use->value,
            $column instanceof CodedColumn && \count(array_filter($column->counts())) > 200 => 'too many different values',
            default => null,
        };
    }

    /** @param list<float> $event */
    private static function direction(string $name, Column $column, array $event, string $eventName): string
    {
        if ($column instanceof NumberColumn || $column instanceof DateColumn) {
            $values = $column instanceof NumberColumn ? $column->values : array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds);
            $edges = QuantileBins::edges($values, 4);
            [$rates] = self::rates(QuantileBins::codes($values, $edges), $event);
            ksort($rates);
            $shares = array_values($rates);
            $rho = Association::spearman($values, $event)['rho'] ?? 0.0;
            $rises = \count($shares) > 1 && $shares[\count($shares) - 1] > max(0.0, ...\array_slice($shares, 0, -1));
            $falls = \count($shares) > 1 && $shares[0] > max(0.0, ...\array_slice($shares, 1));
            $name = str_replace('_', ' ', $name);
            $more = $column instanceof DateColumn ? 'the later '.$name : 'the more '.$name;
            if ($rho > 0 && $rises) {
                return \sprintf('%s, the more “%s”', $more, $eventName);
            }
            if ($rho < 0 && $falls) {
                return \sprintf('%s, the less “%s”', $more, $eventName);
            }
            if ([] === $rates || $column instanceof DateColumn) {
                return 'up and down, with no single direction';
            }
            $best = (int) array_search(max($rates), $rates, true);
            $low = $edges[$best - 1] ?? null;
            $high = $edges[$best] ?? null;

            return \sprintf('most “%s” %s', $eventName, match (true) {
                null === $low => 'up to '.Words::number((float) $high),
                null === $high => 'above '.Words::number($low),
                default => 'between '.Words::number($low).' and '.Words::number($high),
            });
        }
        if (!$column instanceof CodedColumn) {
            return '';
        }
        [$rates, $sizes] = self::rates($column->codes, $event);
        $rates = array_filter($rates, static fn (int $code) => $sizes[$code] >= self::ENOUGH, \ARRAY_FILTER_USE_KEY);
        if (\count($rates) < 2) {
            return '';
        }
        arsort($rates);
        $first = (int) array_key_first($rates);
        $last = (int) array_key_last($rates);

        return \sprintf('most “%s” with %s (%.1f %%), fewest with %s (%.1f %%)', $eventName, $column->levels[$first], 100 * $rates[$first], $column->levels[$last], 100 * $rates[$last]);
    }

    /**
     * @param list<int>   $codes
     * @param list<float> $event
     *
     * @return array{array<int, float>, array<int, int>} the share of events and the number of records per code
     */
    private static function rates(array $codes, array $event): array
    {
        $hits = $sizes = [];
        foreach ($codes as $row => $code) {
            if ($code >= 0 && !is_nan($event[$row])) {
                $sizes[$code] = ($sizes[$code] ?? 0) + 1;
                $hits[$code] = ($hits[$code] ?? 0.0) + $event[$row];
            }
        }
        $rates = [];
        foreach ($sizes as $code => $size) {
            $rates[$code] = $hits[$code] / $size;
        }

        return [$rates, $sizes];
    }
}
