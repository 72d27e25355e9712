<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Findings\Outcome\Outcome;
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
        $outcome = $subject->outcome;
        if (null === $outcome) {
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
            $strength = null === $why ? TargetStrength::of($column, $outcome) : null;
            if (null === $strength) {
                $leftOut[] = new TargetRelation($name, null, null, '', null, null, $late, $why ?? (null === $subject->event ? 'too few records' : 'too few records of either kind'));
                continue;
            }
            if (!$late) {
                $p[$name] = $strength->p;
            }
            $ranked[$name] = [$strength, $late];
        }
        uasort($ranked, static fn (array $a, array $b) => $b[0]->alone <=> $a[0]->alone);
        $adjusted = Holm::adjusted($p);
        $out = [];
        foreach ($ranked as $name => [$strength, $late]) {
            $name = (string) $name;
            $sure = ($adjusted[$name] ?? $strength->p) < 0.05;
            [$says, $lowest, $highest] = $sure ? self::direction($subject->table->column($name), $outcome) : ['', null, null];
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
     * @return array{string, ?float, ?float} words, lowest and highest mean
     */
    private static function direction(Column $column, Outcome $outcome): array
    {
        if ($column instanceof CodedColumn) {
            [$told, $of] = $outcome->told($column->codes);
            [$rates, $sizes] = self::rates($column->codes, $told);
            $rates = array_filter($rates, static fn (int $code) => $sizes[$code] >= self::ENOUGH, \ARRAY_FILTER_USE_KEY);
            if (\count($rates) < 2) {
                return ['', null, null];
            }
            $first = (int) array_search(max($rates), $rates, true);
            $last = (int) array_search(min($rates), $rates, true);

            return [\sprintf('%s%s %s, %s %s', $of, $outcome->write($rates[$first]), $column->levels[$first], $outcome->write($rates[$last]), $column->levels[$last]), $rates[$last], $rates[$first]];
        }
        if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
            return ['', null, null];
        }
        $values = $column instanceof NumberColumn ? $column->values : array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds);
        $edges = QuantileBins::spoken($values, 5);
        $codes = QuantileBins::codes($values, $edges);
        [$told, $of] = $outcome->told($codes);
        [$rates] = self::rates($codes, $told);
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
        $rho = Association::spearman($values, $told)['rho'] ?? 0.0;
        $bins = array_keys($rates);
        $ends = [$bins[0], $bins[\count($bins) - 1]];
        if ($rho > 0 && $best === $ends[1] || $rho < 0 && $best === $ends[0]) {
            // Told from the lower end to the upper one.
            return [\sprintf('%s%s: %s %s, %s %s', $of, $rho > 0 ? 'rises' : 'falls', $outcome->write($rates[$ends[0]]), $part($ends[0]), $outcome->write($rates[$ends[1]]), $part($ends[1])), $rates[$worst], $rates[$best]];
        }

        return [\sprintf('%s%s %s, %s %s', $of, $outcome->write($rates[$best]), $part($best), $outcome->write($rates[$worst]), $part($worst)), $rates[$worst], $rates[$best]];
    }

    /**
     * @param list<int>   $codes
     * @param list<float> $told
     *
     * @return array{array<int, float>, array<int, int>} the mean of what is told and the number of records per code
     */
    private static function rates(array $codes, array $told): array
    {
        $hits = $sizes = [];
        foreach ($codes as $row => $code) {
            if ($code >= 0 && !is_nan($told[$row])) {
                $sizes[$code] = ($sizes[$code] ?? 0) + 1;
                $hits[$code] = ($hits[$code] ?? 0.0) + $told[$row];
            }
        }
        $rates = [];
        foreach ($sizes as $code => $size) {
            $rates[$code] = $hits[$code] / $size;
        }

        return [$rates, $sizes];
    }
}
