<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\TextColumn;

/** What one column shows by itself, whatever its kind. */
final readonly class ColumnChecks
{
    private const PLACEHOLDERS = ['?', '-', '--', '.', 'unknown', 'not known', 'none', 'n.a.', 'na', 'missing', 'tbd', 'x', 'xx', 'xxx', '#n/a', 'nil', 'blank', '(blank)', 'undefined'];
    private const EVIDENCE = 200;

    public function __construct(private Thresholds $thresholds)
    {
    }

    /** @return list<Finding> what a single column of any kind shows */
    public function of(string $name, Column $column, Subject $subject): array
    {
        $rows = $column->count();
        $n = $rows - $column->missing();
        $aside = [['do' => 'set aside']];
        if (0 === $n) {
            return [new Finding('empty', Severity::Medium, [$name], \sprintf('%s has no value in any record.', $name), ['missing' => $rows], [], $aside)];
        }
        $counts = self::counts($column);
        $distinct = \count($counts);
        $most = max(0, ...array_values($counts));
        $top = (string) array_search($most, $counts, true);
        $out = $this->missing($name, $column, $rows, $n);
        if (1 === $distinct) {
            $out[] = new Finding('constant', Severity::Medium, [$name], \sprintf('%s is "%s" wherever it is filled, so it cannot tell anything apart.', $name, $top), ['distinct' => 1], [], $aside);

            return $out;
        }
        if ($most >= $this->thresholds->of('near_constant_share') * $n) {
            $others = [];
            for ($row = 0; $row < $rows && \count($others) < self::EVIDENCE; ++$row) {
                if (!$column->isMissing($row) && $column->text($row) !== $top) {
                    $others[] = $row;
                }
            }
            $out[] = new Finding('near constant', Severity::Low, [$name], \sprintf('%s is "%s" in %s of %s records; the other %s will hardly be learned from.', $name, $top, number_format($most), number_format($n), number_format($n - $most)), ['share' => $most / $n], $others, $aside);
        }
        if ($distinct === $n && $n >= 20 && !$column instanceof DateColumn && (Kind::Number !== $column->kind() || self::counting($column))) {
            $out[] = new Finding('all distinct', Severity::Low, [$name], \sprintf('%s differs in every record: a key, or a running number. It tells records apart but says nothing about new ones.', $name), ['distinct' => $distinct], [], Kind::Identifier === $column->kind() ? [] : [['do' => 'set aside'], ['do' => 'kind', 'to' => Kind::Identifier->value]]);
        } elseif ($column instanceof TextColumn || $column instanceof CodedColumn) {
            array_push($out, ...$this->texts($name, $column, $counts, $n));
        }
        if ($column instanceof DateColumn && null !== $subject->today) {
            array_push($out, ...$this->future($name, $column, $subject->today));
        }

        return $out;
    }

    /** @return array<array-key, int> how often each value occurs */
    private static function counts(Column $column): array
    {
        $counts = [];
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            $text = $column->text($row);
            if (null !== $text) {
                $counts[$text] = ($counts[$text] ?? 0) + 1;
            }
        }

        return $counts;
    }

    /** Whether all numbers are whole: measurements that all differ are nothing to wonder at. */
    private static function counting(Column $column): bool
    {
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            if (!ctype_digit($column->text($row) ?? '0')) {
                return false;
            }
        }

        return true;
    }

    /** @return list<Finding> */
    private function missing(string $name, Column $column, int $rows, int $n): array
    {
        $missing = $rows - $n;
        if (0 === $missing) {
            return [];
        }
        $share = $missing / $rows;
        $gone = [];
        for ($row = 0; $row < $rows && \count($gone) < self::EVIDENCE; ++$row) {
            if ($column->isMissing($row)) {
                $gone[] = $row;
            }
        }
        $fill = $column instanceof TextColumn ? [] : [['do' => 'step', 'step' => ['step' => 'fill_missing', 'columns' => [$name], 'method' => 'median', 'mark' => true]]];
        $figures = ['missing' => $missing, 'share' => $share];
        if ($share >= $this->thresholds->of('mostly_missing_share')) {
            return [new Finding('mostly missing', Severity::Medium, [$name], \sprintf('%s is missing in %s of %s records (%.1f%%).', $name, number_format($missing), number_format($rows), 100 * $share), $figures, $gone, [['do' => 'set aside'], ...$fill])];
        }

        return [new Finding('missing', $share >= $this->thresholds->of('missing_share') ? Severity::Medium : Severity::Low, [$name], \sprintf('%s is missing in %s of %s records (%s%%).', $name, number_format($missing), number_format($rows), Words::number(100 * $share)), $figures, $gone, [...$fill, ['do' => 'set aside']])];
    }

    /**
     * @param array<array-key, int> $counts
     *
     * @return list<Finding>
     */
    private function texts(string $name, TextColumn|CodedColumn $column, array $counts, int $n): array
    {
        $out = [];
        $numbers = 0;
        $held = [];
        // Where some values begin with a zero, digits are codes and not numbers.
        $codes = [] !== preg_grep('/^[-+]?0\d/', array_map(strval(...), array_keys($counts)));
        foreach ($counts as $value => $count) {
            $value = (string) $value;
            if (!$codes && is_numeric($value)) {
                $numbers += $count;
            }
            if (\in_array(mb_strtolower(trim($value)), self::PLACEHOLDERS, true)) {
                $held[$value] = $count;
            }
        }
        if ([] !== $held && \count($counts) > 2) {
            arsort($held);
            $value = (string) array_key_first($held);
            $out[] = new Finding('missing code', Severity::Medium, [$name], \sprintf('%s holds "%s" in %s records, which looks like a mark for missing.', $name, $value, number_format($held[$value])), ['code' => $value, 'records' => $held[$value]], self::where($column, array_map(strval(...), array_keys($held))), [['do' => 'step', 'step' => ['step' => 'recode', 'column' => $name, 'pairs' => array_map(static fn (int|string $v) => [(string) $v, ''], array_keys($held))]]]);
        }
        $share = $numbers / $n;
        if ($share >= 0.9 && $share < 1.0) {
            $odd = array_filter(array_map(strval(...), array_keys($counts)), static fn (string $v) => !is_numeric($v));
            $out[] = new Finding('numbers stored as text', Severity::Medium, [$name], \sprintf('%s holds numbers in %.1f%% of its cells, but also %s.', $name, 100 * $share, Words::listed(array_map(static fn (string $v) => '"'.$v.'"', \array_slice(array_values($odd), 0, 6)), 4)), ['share' => $share], self::where($column, array_values($odd)), [['do' => 'kind', 'to' => Kind::Number->value]]);
        } elseif ($share > 0.05 && $share < 0.9) {
            $out[] = new Finding('mixed kinds', Severity::Medium, [$name], \sprintf('%s mixes numbers (%.0f%% of its cells) with words.', $name, 100 * $share), ['share' => $share]);
        }
        if ($column instanceof TextColumn || Kind::YesNo === $column->kind()) {
            return $out;
        }
        if (\count($counts) > $this->thresholds->of('many_categories')) {
            $out[] = new Finding('many categories', Severity::Medium, [$name], \sprintf('%s has %s different values, %s records each on average: a model can hardly learn one effect for each.', $name, number_format(\count($counts)), Words::number($n / \count($counts))), ['distinct' => \count($counts)], [], [['do' => 'set aside'], ['do' => 'step', 'step' => ['step' => 'group_rare', 'columns' => [$name], 'share' => 0.01, 'name' => 'other']]]);

            return $out;
        }
        $rare = array_filter($counts, fn (int $c) => $c < max(3.0, $this->thresholds->of('rare_category_share') * $n));
        if ([] !== $rare) {
            asort($rare);
            $names = array_map(static fn (int|string $v) => '"'.$v.'"', array_keys($rare));
            $out[] = new Finding('rare categories', Severity::Low, [$name], \sprintf('%s in %s stand in fewer than %s records each: %s.', 1 === \count($rare) ? 'One value' : \count($rare).' values', $name, number_format((int) ceil(max(3.0, $this->thresholds->of('rare_category_share') * $n))), Words::listed($names)), ['values' => \count($rare), 'records' => array_sum($rare)], self::where($column, array_map(strval(...), array_keys($rare))), [['do' => 'step', 'step' => ['step' => 'group_rare', 'columns' => [$name], 'share' => $this->thresholds->of('rare_category_share'), 'name' => 'other']]]);
        }

        return $out;
    }

    /**
     * @param list<string> $values
     *
     * @return list<int>
     */
    private static function where(Column $column, array $values): array
    {
        $wanted = array_fill_keys($values, true);
        $rows = [];
        for ($row = 0, $count = $column->count(); $row < $count && \count($rows) < self::EVIDENCE; ++$row) {
            $text = $column->text($row);
            if (null !== $text && isset($wanted[$text])) {
                $rows[] = $row;
            }
        }

        return $rows;
    }

    /** @return list<Finding> */
    private function future(string $name, DateColumn $column, int $today): array
    {
        $rows = [];
        $latest = $today;
        foreach ($column->seconds as $row => $s) {
            if ($s > $today + DateColumn::DAY) {
                $rows[] = $row;
                $latest = max($latest, $s);
            }
        }

        return [] === $rows ? [] : [new Finding('dates in the future', Severity::Medium, [$name], \sprintf('%s lies in the future in %s records, up to %s.', $name, number_format(\count($rows)), DateColumn::write($latest)), ['records' => \count($rows)], \array_slice($rows, 0, self::EVIDENCE))];
    }
}
