<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Table\DateColumn;

/** Dates that most likely stand for "no date". */
final class DateChecks
{
    private const EVIDENCE = 20;
    /** Days at which clocks and programs begin or end; they stand for nothing when others lie far away. */
    private const USUAL = ['0001-01-01', '1753-01-01', '1899-12-30', '1899-12-31', '1900-01-01', '1970-01-01', '9999-12-31', '2999-12-31'];
    /** Days to the next date, from which on one stands apart. */
    private const APART = 3653;

    /** @return list<Finding> what a column of dates shows */
    public static function of(string $name, DateColumn $column): array
    {
        $counts = [];
        foreach ($column->seconds as $s) {
            if (DateColumn::MISSING !== $s) {
                $counts[$s] = ($counts[$s] ?? 0) + 1;
            }
        }
        ksort($counts);
        $dates = array_keys($counts);
        $out = [];
        foreach ([0 => 1, \count($dates) - 1 => -1] as $end => $inward) {
            if (\count($dates) < 3) {
                break;
            }
            $date = $dates[$end];
            $next = $dates[$end + $inward];
            $day = substr(DateColumn::write($date), 0, 10);
            if (!\in_array($day, self::USUAL, true) || abs($next - $date) < self::APART * DateColumn::DAY) {
                continue;
            }
            $rows = array_keys($column->seconds, $date, true);
            $out[] = new Finding('missing code', Severity::High, [$name], \sprintf('%s is %s in %s, years away from all others: most likely a mark for no date, and every span of time counts it.', $name, $day, 1 === \count($rows) ? 'one record' : number_format(\count($rows)).' records'), ['code' => $day, 'records' => \count($rows)], \array_slice($rows, 0, self::EVIDENCE), [['do' => 'step', 'step' => ['step' => 'recode', 'column' => $name, 'pairs' => [[DateColumn::write($date), '']]]]]);
        }

        return $out;
    }
}
