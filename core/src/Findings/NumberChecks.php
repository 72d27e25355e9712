<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** What a column of numbers shows by itself. */
final readonly class NumberChecks
{
    private const CODES = [-1.0, -9.0, -99.0, -999.0, -9999.0, 99.0, 999.0, 9999.0, 99999.0, 999999.0];
    private const EVIDENCE = 200;
    /** e to the minus this: how rarely a tail leaves such a gap by itself. */
    private const TAIL = 4.3;

    public function __construct(private Thresholds $thresholds)
    {
    }

    /** @return list<Finding> what a column of numbers shows */
    public function of(string $name, NumberColumn $column): array
    {
        $counts = [];
        foreach ($column->values as $v) {
            if ($v === $v) {
                $counts[NumberColumn::write($v)] = ($counts[NumberColumn::write($v)] ?? 0) + 1;
            }
        }
        if (\count($counts) < 2) {
            return [];
        }
        ksort($counts, \SORT_NUMERIC);
        $values = array_map(floatval(...), array_keys($counts));
        $out = [];
        $code = $this->code($values, array_values($counts));
        if (null !== $code) {
            $records = $counts[NumberColumn::write($code)];
            $out[] = new Finding('missing code', Severity::High, [$name], \sprintf('%s is %s in %s records, far from all other values (%s to %s): most likely a mark for missing, and every average counts it.', $name, NumberColumn::write($code), number_format($records), ...$this->range($values, $code)), ['code' => $code, 'records' => $records], $this->where($column, static fn (float $v) => $v === $code), [['do' => 'step', 'step' => ['step' => 'recode', 'column' => $name, 'pairs' => [[NumberColumn::write($code), '']]]]]);
        }
        $looks = $this->looksLikeCodes($values, $counts);
        if ($looks) {
            $out[] = new Finding('numbers like codes', Severity::Medium, [$name], \sprintf('%s has only %d different whole numbers, %s: they look like codes, of which twice as much means nothing.', $name, \count($values), Words::listed(array_map(NumberColumn::write(...), $values), 8)), ['distinct' => \count($values)], [], [['do' => 'kind', 'to' => Kind::Category->value]]);

            return $out;
        }
        $kept = null === $code ? $column->values : array_values(array_filter($column->values, static fn (float $v) => $v !== $code));
        $outliers = $this->outliers($kept);
        if (null !== $outliers) {
            [$from, $above, $z] = $outliers;
            $beyond = static fn (float $v): bool => ($above ? $v >= $from : $v <= $from) && $v !== $code;
            $count = \count(array_filter($column->values, static fn (float $v) => $v === $v && $beyond($v)));
            $rows = $this->where($column, $beyond);
            usort($rows, static fn (int $a, int $b) => ($above ? -1 : 1) * ($column->values[$a] <=> $column->values[$b]));
            $out[] = new Finding('outliers', Severity::Medium, [$name], \sprintf('%s of %s records stand%s apart in %s: %s %s, with a gap to all others.', number_format($count), number_format($column->count() - $column->missing()), 1 === $count ? 's' : '', $name, Words::number($from), $above ? 'and more' : 'and less'), ['records' => $count, 'from' => $from, 'z' => $z], $rows, [['do' => 'step', 'step' => ['step' => 'outliers', 'columns' => [$name], 'rule' => 'quartile fences', 'reach' => 3.0, 'action' => 'capped at the limit']]]);
            $kept = array_values(array_filter($kept, static fn (float $v) => $above ? $v < $from : $v > $from));
        }
        $skew = NumberSummary::of($kept)->figure('skewness_G1');
        if (null !== $skew && abs($skew) >= $this->thresholds->of('skewness') && \count($values) > 10) {
            $out[] = new Finding('skew', Severity::Low, [$name], \sprintf('%s is lopsided: a long tail of %s values (skewness %s%s).', $name, $skew > 0 ? 'large' : 'small', Words::number((float) $skew), \count($kept) < \count($column->values) ? \sprintf(', leaving out %s records that stand apart', number_format(\count($column->values) - \count($kept))) : ''), ['skewness' => (float) $skew], [], [['do' => 'step', 'step' => ['step' => 'scale', 'columns' => [$name], 'method' => 'logarithm']]]);
        }

        return $out;
    }

    /**
     * A usual mark for missing that stands alone at an end: at least three records, and farther from its neighbor than the rest can explain.
     *
     * @param list<float> $values distinct, ascending
     * @param list<int>   $counts
     */
    private function code(array $values, array $counts): ?float
    {
        $n = array_sum($counts);
        $last = \count($values) - 1;
        if ($last < 5) {
            return null;
        }
        foreach ([[0, 1], [$last, $last - 1]] as [$end, $beside]) {
            $code = $values[$end];
            if (!\in_array($code, self::CODES, true) || $counts[$end] < max(3, 0.0005 * $n)) {
                continue;
            }
            $rest = 0 === $end ? \array_slice($values, 1) : \array_slice($values, 0, -1);
            $next = $values[$beside] ?? $code;
            $more = $counts[$end] > 2 * ($counts[$beside] ?? 0);
            // A negative mark among numbers that are never negative, or one that lies beyond the whole width of the rest.
            $foreign = $code < 0.0 && $rest[0] >= 0.0 && ($next - $code >= 2.0 || $more);
            $far = abs($next - $code) > $rest[\count($rest) - 1] - $rest[0] && $more;
            if ($foreign || $far) {
                return $code;
            }
        }

        return null;
    }

    /**
     * @param list<float> $values
     *
     * @return array{string, string}
     */
    private function range(array $values, float $without): array
    {
        $rest = array_values(array_filter($values, static fn (float $v) => $v !== $without));

        return [Words::number($rest[0]), Words::number($rest[\count($rest) - 1])];
    }

    /**
     * Few whole numbers of equal length that leave out most of the numbers between them.
     *
     * @param list<float>           $values
     * @param array<array-key, int> $counts
     */
    private function looksLikeCodes(array $values, array $counts): bool
    {
        $k = \count($values);
        if ($k < 3 || $k > 30 || array_sum($counts) < 10 * $k || $values[0] < 10.0) {
            return false;
        }
        foreach ($values as $v) {
            if ($v !== floor($v) || \strlen(NumberColumn::write($v)) !== \strlen(NumberColumn::write($values[0]))) {
                return false;
            }
        }
        // Steps of 5 or 10 are rounding, not codes.
        $steps = array_unique(array_map(static fn (int $i) => $values[$i] - $values[$i - 1], range(1, $k - 1)));

        return $k <= 0.6 * ($values[$k - 1] - $values[0] + 1) && \count($steps) > 1 && [] !== array_filter($values, static fn (float $v) => 0.0 !== fmod($v, 5.0));
    }

    /**
     * Values beyond a gap at an end, on the logarithmic scale where a column is lopsided upward.
     *
     * @param list<float> $values
     *
     * @return ?array{float, bool, float} the first value beyond the gap, whether they lie above, and its robust z
     */
    private function outliers(array $values): ?array
    {
        $present = array_values(array_filter($values, static fn (float $v) => $v === $v));
        $n = \count($present);
        if ($n < 50) {
            return null;
        }
        sort($present, \SORT_NUMERIC);
        $summary = NumberSummary::of($present);
        $log = $present[0] >= 0.0 && ($summary->figure('skewness_G1') ?? 0) > 1.0;
        $scaled = $log ? array_map(log1p(...), $present) : $present;
        $own = NumberSummary::of($scaled);
        $median = (float) $own->figure('median');
        $most = max(1, (int) floor(0.01 * $n));
        foreach ([true, false] as $above) {
            $beyond = null;
            $far = array_map(static fn (float $v): float => $above ? $v - $median : $median - $v, $above ? array_reverse($scaled) : $scaled);
            for ($i = 1; $i <= $most; ++$i) {
                $out = $above ? $n - $i : $i - 1;
                $in = $above ? $out - 1 : $out + 1;
                $reach = abs($scaled[$in] - $median);
                $z = abs($own->robustZ($scaled[$out]) ?? 0.0);
                if ($reach > 0.0 && abs($scaled[$out] - $scaled[$in]) >= $this->thresholds->of('outlier_gap') * $reach && $z >= $this->thresholds->of('outlier_z') && self::isBeyondTheTail($far, $i)) {
                    $beyond = [$present[$out], $above, $z];
                }
            }
            if (null !== $beyond) {
                return $beyond;
            }
        }

        return null;
    }

    /**
     * Whether the gap behind the i farthest values is more than the tail itself explains. Among the largest of any tail the logarithms of
     * distances lie apart by exponential steps, of which the i-th has the mean 1/(i a) (Renyi 1953), a being how steeply the tail falls (Hill 1975).
     *
     * @param list<float> $far distances from the median, the farthest first
     */
    private static function isBeyondTheTail(array $far, int $i): bool
    {
        $first = $far[$i];
        $many = max(10, min(200, (int) (0.05 * \count($far))));
        $last = $far[min(\count($far) - 1, $i + $many)];
        if ($first <= 0.0 || $last <= 0.0) {
            return $first <= 0.0;
        }
        $sum = 0.0;
        $n = 0;
        for ($k = $i; $k < $i + $many && isset($far[$k]) && $far[$k] > 0.0; ++$k) {
            $sum += log($far[$k] / $last);
            ++$n;
        }

        return $sum <= 0.0 || $i * $n / $sum * log($far[$i - 1] / $first) >= self::TAIL;
    }

    /**
     * @param \Closure(float): bool $holds
     *
     * @return list<int>
     */
    private function where(NumberColumn $column, \Closure $holds): array
    {
        $rows = [];
        foreach ($column->values as $row => $v) {
            if ($v === $v && $holds($v)) {
                $rows[] = $row;
                if (self::EVIDENCE === \count($rows)) {
                    break;
                }
            }
        }

        return $rows;
    }
}
