<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Picture\Operand;
use Dokimos\Core\Picture\Strength;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Profile\Ranks;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** What repeats: rows, keys, and columns that say the same. */
final readonly class RelationChecks
{
    private const EVIDENCE = 200;
    /** Relations are looked for on so many rows: a strength of 0.8 is known to two digits then. */
    private const SAMPLE = 5000;
    /** An entity has at most so many records; a place has more. */
    private const MOST_RECORDS = 50;
    /** Over the few columns of a table that repeat so, this is said of hardly any that is none. */
    private const ALIKE = 0.001;
    private const MOST_LEVELS = 60;
    /** Cells of pairs that are looked at before the strong ones are measured in full. */
    private const LOOKED_AT = 2e8;
    /** On 300 records a strength of 0.8 is known to ± 0.05. */
    private const MARGIN = 0.15;

    public function __construct(private Thresholds $thresholds)
    {
    }

    /** @return list<Finding> what two columns show of each other */
    public function of(Subject $subject): array
    {
        $table = $subject->table;

        return [...$this->rows($table, [] === $subject->hidden ? null : $subject->open), ...$this->keys($subject), ...$this->columns($subject)];
    }

    /**
     * @param ?list<int> $open rows that can be compared; all when null
     *
     * @return list<Finding>
     */
    private function rows(Table $table, ?array $open): array
    {
        if ($table->rows < 2 || [] === $table->columns()) {
            return [];
        }
        $seen = $again = [];
        $texts = array_values($table->columns());
        foreach ($open ?? range(0, $table->rows - 1) as $row) {
            $cells = [];
            foreach ($texts as $column) {
                $cells[] = $column->text($row) ?? "\0";
            }
            $hash = hash('xxh3', implode("\1", $cells));
            if (isset($seen[$hash])) {
                $again[] = $row;
            } else {
                $seen[$hash] = true;
            }
        }
        $count = \count($again);
        if (0 === $count) {
            return [];
        }
        $looked = null === $open ? $table->rows : \count($open);
        $share = $count / $looked;

        return [new Finding('duplicate rows', $share >= $this->thresholds->of('duplicate_rows_share') ? Severity::High : Severity::Medium, [], \sprintf('%s of %s records repeat an earlier one in every column: one and the same may come to train and to judge.', number_format($count), number_format($looked)), ['records' => $count, 'share' => $share], \array_slice($again, 0, self::EVIDENCE), [['do' => 'step', 'step' => ['step' => 'duplicates', 'choose' => ['kinds' => [], 'missing' => false]]]])];
    }

    /**
     * Keys of something that occurs in several records: texts of one shape, far more different ones than categories have, or values of any shape
     * whose records come out alike.
     *
     * @return list<Finding>
     */
    private function keys(Subject $subject): array
    {
        $out = [];
        foreach ($subject->table->columns() as $name => $column) {
            $name = (string) $name;
            if ($column instanceof DateColumn || ColumnUse::Target === $subject->use($name)) {
                continue;
            }
            $counts = $shapes = [];
            for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
                $text = $column->text($row);
                if (null !== $text) {
                    $counts[$text] = ($counts[$text] ?? 0) + 1;
                    $shapes[(string) preg_replace(['/\d+/', '/\pL+/u'], ['9', 'a'], $text)] = true;
                }
            }
            $n = array_sum($counts);
            $distinct = \count($counts);
            // A key: one shape of letters and digits without blanks, most records in a group of a few.
            $isKey = !$column instanceof NumberColumn && $distinct > 100 && 1 === \count($shapes) && str_contains((string) array_key_first($shapes), '9') && !str_contains((string) array_key_first($shapes), ' ') && $distinct < 0.98 * $n && $distinct > 0.02 * $n && $n > 0.5 * $rows;
            if (!$isKey && !$this->isEntity($column, $counts, $n, $subject)) {
                continue;
            }
            arsort($counts);
            $most = (string) array_key_first($counts);
            $repeated = $n - \count(array_filter($counts, static fn (int $c) => 1 === $c));
            $evidence = [];
            for ($row = 0; $row < $rows && \count($evidence) < self::EVIDENCE; ++$row) {
                if ($column->text($row) === $most) {
                    $evidence[] = $row;
                }
            }
            $out[] = new Finding('repeated keys', Severity::Medium, [$name], \sprintf('%s of %s records share their %s with another one (%s different, %s up to %d times). Records of one %s are not independent: split them by %s, or figures look better than they are.', number_format($repeated), number_format($n), $name, number_format($distinct), $most, $counts[$most], $name, $name), ['records' => $repeated, 'distinct' => $distinct], $evidence, ColumnUse::Key === $subject->use($name) ? [] : [['do' => 'key']]);
        }

        return $out;
    }

    /**
     * Whatever its shape: values that repeat as an entity's do, and whose records come out more alike than chance has it. A place that is
     * one of few, or of which each holds very many records, is none.
     *
     * @param array<array-key, int> $counts
     */
    private function isEntity(Column $column, array $counts, int $n, Subject $subject): bool
    {
        $distinct = \count($counts);
        if (null === $subject->outcome || $distinct <= sqrt($column->count()) || $distinct >= 0.9 * $n || $n < 0.5 * $column->count()) {
            return false;
        }
        if ($column instanceof NumberColumn && [] !== array_filter($column->values, static fn (float $v): bool => $v === $v && floor($v) !== $v)) {
            return false;
        }
        sort($counts);
        // How often the value of a typical record occurs.
        $below = 0;
        $typical = 1;
        foreach ($counts as $count) {
            $below += $count;
            if (2 * $below >= $n) {
                $typical = $count;
                break;
            }
        }
        if ($typical < 2 || $typical > self::MOST_RECORDS) {
            return false;
        }
        $places = $all = $codes = $outcomes = [];
        for ($row = 0; $row < $subject->table->rows; ++$row) {
            $text = $column->text($row);
            $all[] = null === $text ? -1 : $places[$text] ??= \count($places);
        }
        foreach ($subject->outcome->told($all)[0] as $row => $e) {
            if ($all[$row] >= 0 && $e === $e) {
                $codes[] = $all[$row];
                $outcomes[] = $e;
            }
        }

        // Of several classes the one that differs most was taken: it is asked for as many as there are.
        return \count($subject->outcome->facets()) * (Association::groups($codes, Ranks::of($outcomes))['p'] ?? 1.0) < self::ALIKE && !self::isMeasure($column, $outcomes, $codes);
    }

    /**
     * A number whose size itself goes with the outcome is a measure, not a key: what its values have in common is explained by their order.
     *
     * @param list<float> $outcomes
     * @param list<int>   $codes
     */
    private static function isMeasure(Column $column, array $outcomes, array $codes): bool
    {
        if (!$column instanceof NumberColumn) {
            return false;
        }
        $levels = [];
        foreach ($column->values as $v) {
            if ($v === $v) {
                $levels[NumberColumn::write($v)] ??= $v;
            }
        }
        $values = array_values($levels);
        $own = array_map(static fn (int $code): float => $values[$code] ?? \NAN, $codes);

        // Ten stretches of the number say as much as its values do.
        $bins = QuantileBins::codes($own, QuantileBins::edges($own, 10));
        $byOrder = Association::groups($bins, $outcomes);
        $byValue = Association::groups($codes, $outcomes);

        return self::explained(...$byOrder) >= 0.5 * self::explained(...$byValue);
    }

    /** The share of variance between groups less what chance gives to so many. */
    private static function explained(int $n, ?float $eta_squared, ?float $f, int $df1, int $df2, ?float $p): float
    {
        return max(0.0, 1 - (1 - ($eta_squared ?? 0.0)) * ($n - 1) / max(1, $df2));
    }

    /** @return list<Finding> */
    private function columns(Subject $subject): array
    {
        $table = $subject->table;
        if ($table->rows > self::SAMPLE) {
            $step = $table->rows / self::SAMPLE;
            $table = $table->take(array_map(static fn (int $i) => (int) ($i * $step), range(0, self::SAMPLE - 1)));
        }
        $columns = [];
        foreach ($table->columns() as $name => $column) {
            if (ColumnUse::Target !== $subject->use((string) $name) && $column->count() - $column->missing() >= 20 && self::varies($column)) {
                $columns[] = [(string) $name, $column];
            }
        }
        $out = [];
        foreach ($this->worthALook($columns, $table->rows) as [$j, $i]) {
            [[$second, $b], [$first, $a]] = [$columns[$j], $columns[$i]];
            $found = $this->pair($second, $b, $first, $a);
            if (null !== $found) {
                $out[] = $found;
            }
        }

        return $out;
    }

    /**
     * Pairs that may be strong, by a look at few rows where there are very many pairs: each of those is then measured in full.
     *
     * @param list<array{string, Column}> $columns
     *
     * @return list<array{int, int}> places in the list, the earlier first
     */
    private function worthALook(array $columns, int $rows): array
    {
        $pairs = max(1, intdiv(\count($columns) * (\count($columns) - 1), 2));
        $some = (int) max(300, min($rows, self::LOOKED_AT / $pairs));
        $picked = $some >= $rows ? null : array_map(static fn (int $i) => intdiv($i * $rows, $some), range(0, $some - 1));
        $operands = array_map(static fn (array $c) => Operand::of($c[0], null === $picked ? $c[1] : $c[1]->take($picked)), $columns);
        $least = $this->thresholds->of('relation_strength') - self::MARGIN;
        $places = array_map(static fn (Operand $o): array => null === $picked ? [] : $o->places(), $operands);
        $out = [];
        foreach ($operands as $i => $a) {
            $own = $places[$i];
            for ($j = 0; $j < $i; ++$j) {
                $rough = [] === $own || [] === $places[$j] ? Strength::rough($a, $operands[$j]) : Strength::near($own, $places[$j]);
                if (abs($rough ?? 0.0) >= $least) {
                    $out[] = [$j, $i];
                }
            }
        }

        return $out;
    }

    private static function varies(Column $column): bool
    {
        if ($column instanceof CodedColumn) {
            $levels = \count(array_filter($column->counts()));

            return $levels > 1 && $levels <= self::MOST_LEVELS;
        }
        $values = $column instanceof NumberColumn ? $column->values : ($column instanceof DateColumn ? $column->seconds : []);

        return [] !== $values && \count(array_unique(array_filter($values, static fn (float|int $v) => $v === $v && DateColumn::MISSING !== $v))) > 1;
    }

    private function pair(string $first, Column $a, string $second, Column $b): ?Finding
    {
        if (($a instanceof CodedColumn) !== ($b instanceof CodedColumn)) {
            return null;
        }
        if ($a instanceof CodedColumn && $b instanceof CodedColumn) {
            $v = Association::categories($a->codes, $b->codes)['cramers_v_corrected'];
            // With many small cells chance alone looks strong; the corrected figure does not.
            $strength = $v ?? 0.0;
            $what = \sprintf('Cramér\'s V %.2f', $strength);
        } else {
            $r = Association::spearman(self::numbers($a), self::numbers($b));
            $strength = abs($r['rho'] ?? 0.0);
            $what = \sprintf('rank correlation %s%.2f', ($r['rho'] ?? 0) < 0 ? "\u{2212}" : '', $strength);
        }
        if ($strength < $this->thresholds->of('relation_strength')) {
            return null;
        }
        [$same, $different] = self::agreement($a, $b);
        $figures = ['strength' => $strength, 'different' => \count($different)];
        if ($strength >= $this->thresholds->of('copy_strength')) {
            return [] === $different
                ? new Finding('copy', Severity::Medium, [$first, $second], \sprintf('%s and %s say the same in every record (%s): one of them is enough.', $first, $second, $what), $figures, [], [['do' => 'set aside', 'to' => $second]])
                : new Finding('near copy', Severity::Medium, [$first, $second], \sprintf('%s and %s say nearly the same (%s; they disagree in %s of %s records looked at): together they make effects unsteady.', $first, $second, $what, number_format(\count($different)), number_format($same + \count($different))), $figures, [], [['do' => 'set aside', 'to' => $second]]);
        }

        return new Finding('strong relation', Severity::Low, [$first, $second], \sprintf('%s and %s go together (%s): their effects cannot be told apart well.', $first, $second, $what), $figures);
    }

    /** @return list<float> */
    private static function numbers(Column $column): array
    {
        if ($column instanceof NumberColumn) {
            return $column->values;
        }

        return $column instanceof DateColumn ? array_map(static fn (int $s) => DateColumn::MISSING === $s ? \NAN : (float) $s, $column->seconds) : [];
    }

    /**
     * Each value of the second column is expected with the value of the first that it mostly comes with.
     *
     * @return array{int, list<int>} how many agree, and the rows that do not
     */
    private static function agreement(Column $a, Column $b): array
    {
        $pairs = [];
        for ($row = 0, $rows = $a->count(); $row < $rows; ++$row) {
            $x = $a->text($row);
            $y = $b->text($row);
            if (null !== $x && null !== $y) {
                $pairs[$x][$y] = ($pairs[$x][$y] ?? 0) + 1;
            }
        }
        $usual = array_map(static fn (array $ys) => (string) array_search(max($ys), $ys, true), $pairs);
        $same = 0;
        $different = [];
        for ($row = 0, $rows = $a->count(); $row < $rows; ++$row) {
            $x = $a->text($row);
            $y = $b->text($row);
            if (null === $x || null === $y) {
                continue;
            }
            if ($usual[$x] === $y) {
                ++$same;
            } else {
                $different[] = $row;
            }
        }

        return [$same, $different];
    }
}
