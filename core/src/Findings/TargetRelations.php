<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Math\Holm;
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
                $leftOut[] = new TargetRelation($name, null, null, '', null, null, $late, $why ?? 'too few records of either kind');
                continue;
            }
            if (!$late) {
                $p[$name] = $strength->p;
            }
            $ranked[$name] = [$strength, $late];
        }
        uasort($ranked, static fn (array $a, array $b) => $b[0]->auc <=> $a[0]->auc);
        $adjusted = Holm::adjusted($p);
        $out = [];
        foreach ($ranked as $name => [$strength, $late]) {
            $name = (string) $name;
            $sure = ($adjusted[$name] ?? $strength->p) < 0.05;
            [$says, $lowest, $highest] = $sure ? self::direction($subject->table->column($name), $event) : ['', null, null];
            $out[] = new TargetRelation($name, $strength, $adjusted[$name] ?? null, $says, $lowest, $highest, $late, null);
        }

        return [...$out, ...$leftOut];
    }

    private static function whyNot(ColumnUse $use, Column $column): ?string
    {
        return match (true) {
            ColumnUse::Aside === $use => 'set aside',
            ColumnUse::Key === $use || Kind::Identifier === $column->kind() => 'a key',
            Kind::Text === $column->kind() => 'free text',
            ColumnUse::Input !== $use => 'used as '.$use->value,
            $column instanceof CodedColumn && \count(array_filter($column->counts())) > 200 => 'too many different values',
            default => null,
        };
    }

    /**
     * @param list<float> $event
     *
     * @return array{string, ?float, ?float} words, lowest and highest share
     */
    private static function direction(Column $column, array $event): array
    {
        if ($column instanceof CodedColumn) {
            [$rates, $sizes] = self::rates($column->codes, $event);
            $rates = array_filter($rates, static fn (int $code) => $sizes[$code] >= self::ENOUGH, \ARRAY_FILTER_USE_KEY);
            if (\count($rates) < 2) {
                return ['', null, null];
            }
            $first = (int) array_search(max($rates), $rates, true);
            $last = (int) array_search(min($rates), $rates, true);

            return [\sprintf('%.1f%% %s, %.1f%% %s', 100 * $rates[$first], $column->levels[$first], 100 * $rates[$last], $column->levels[$last]), $rates[$last], $rates[$first]];
        }
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            return ['', null, null];
        }
        $values = $column instanceof NumberColumn ? $column->values : array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds);
        $edges = QuantileBins::spoken($values, 5);
        [$rates] = self::rates(QuantileBins::codes($values, $edges), $event);
        if (\count($rates) < 2) {
            return ['', null, null];
        }
        ksort($rates);
        $write = static fn (float $v): string => $column instanceof DateColumn ? DateColumn::write((int) floor($v / DateColumn::DAY) * DateColumn::DAY) : Words::number($v);
        $part = static fn (int $bin): string => match (true) {
            !isset($edges[$bin - 1]) => 'up to '.$write($edges[$bin] ?? 0.0),
            !isset($edges[$bin]) => 'above '.$write($edges[$bin - 1]),
            default => \sprintf('from %s to %s', $write($edges[$bin - 1]), $write($edges[$bin])),
        };
        $best = (int) array_search(max($rates), $rates, true);
        $worst = (int) array_search(min($rates), $rates, true);
        $rho = Association::spearman($values, $event)['rho'] ?? 0.0;
        $bins = array_keys($rates);
        $ends = [$bins[0], $bins[\count($bins) - 1]];
        if ($rho > 0 && $best === $ends[1] || $rho < 0 && $best === $ends[0]) {
            // Told from the lower end to the upper one.
            return [\sprintf('%s: %.1f%% %s, %.1f%% %s', $rho > 0 ? 'rises' : 'falls', 100 * $rates[$ends[0]], $part($ends[0]), 100 * $rates[$ends[1]], $part($ends[1])), $rates[$worst], $rates[$best]];
        }

        return [\sprintf('%.1f%% %s, %.1f%% %s', 100 * $rates[$best], $part($best), 100 * $rates[$worst], $part($worst)), $rates[$worst], $rates[$best]];
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
