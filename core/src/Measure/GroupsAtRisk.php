<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\CutOff;

/**
 * Whom a cut-off serves worse: events caught, calls in vain and calibration of each group, on rows that the model had not seen. Intervals
 * are
 * wide enough that with 95 % confidence all of them hold together (Bonferroni over groups); a group stands apart where its interval leaves
 * out
 * what all other rows of the same column have. Definition: docs/methods/take-away.md.
 */
final class GroupsAtRisk
{
    /** Categories of more values are told apart elsewhere. */
    private const MOST = 12;
    private const FEWEST = 20;

    /**
     * @param list<float> $outcome 1 = the event; NAN = unknown
     * @param list<float> $chances of the same rows; NAN = not answered
     *
     * @return list<GroupAtRisk> those of which most is said first, then by column and value
     */
    public static function of(Table $table, array $outcome, array $chances, CutOff $cutoff): array
    {
        $found = [];
        foreach ($table->columns() as $name => $column) {
            if (!$column instanceof CodedColumn || \count($column->levels) > self::MOST) {
                continue;
            }
            $groups = Groups::of($column);
            $own = [];
            foreach ($groups->names as $g => $group) {
                $known = array_values(
                    array_filter($groups->rows[$g], static fn (int $r): bool => !is_nan($outcome[$r]) && !is_nan($chances[$r])),
                );
                if (\count($known) >= self::FEWEST) {
                    $own[$group] = $known;
                }
            }
            if (\count($own) > 1) {
                $found[$name] = $own;
            }
        }
        $many = array_sum(array_map(\count(...), $found));
        $z = $many > 0 ? (new Normal())->quantile(1 - 0.025 / $many) : Normal::Z95;
        $out = [];
        foreach ($found as $by => $groups) {
            foreach ($groups as $name => $rows) {
                $rest = array_merge(...array_values(array_diff_key($groups, [$name => []])));
                $out[] = self::group(
                    (string) $by,
                    (string) $name,
                    self::counts($rows, $outcome, $chances, $cutoff),
                    self::counts($rest, $outcome, $chances, $cutoff),
                    $z,
                );
            }
        }
        usort($out, static fn (GroupAtRisk $a, GroupAtRisk $b): int => \count($b->says) <=> \count($a->says));

        return $out;
    }

    /**
     * @param list<int>   $rows
     * @param list<float> $outcome
     * @param list<float> $chances
     *
     * @return array{n: int, events: int, called: int, caught: int, said: float, spread: float}
     */
    private static function counts(array $rows, array $outcome, array $chances, CutOff $cutoff): array
    {
        $out = ['n' => \count($rows), 'events' => 0, 'called' => 0, 'caught' => 0, 'said' => 0.0, 'spread' => 0.0];
        foreach ($rows as $row) {
            $isEvent = $outcome[$row] > 0.5;
            $isCalled = $cutoff->calls($chances[$row]);
            $out['events'] += (int) $isEvent;
            $out['called'] += (int) $isCalled;
            $out['caught'] += (int) ($isEvent && $isCalled);
            $out['said'] += $chances[$row];
            $out['spread'] += $chances[$row] * (1 - $chances[$row]);
        }

        return $out;
    }

    /**
     * @param array{n: int, events: int, called: int, caught: int, said: float, spread: float} $own
     * @param array{n: int, events: int, called: int, caught: int, said: float, spread: float} $rest
     */
    private static function group(string $by, string $name, array $own, array $rest, float $z): GroupAtRisk
    {
        $caught = Interval::wilson($own['caught'], $own['events'], $z);
        $vain = Interval::wilson($own['called'] - $own['caught'], $own['called'], $z);
        // If the chances hold, events are a sum of draws with them: its spread is known.
        $value = ($own['said'] - $own['events']) / $own['n'];
        $half = $z * sqrt($own['spread']) / $own['n'];
        $off = new Interval($value, $value - $half, $value + $half);
        $says = [];
        $others = Interval::wilson($rest['caught'], $rest['events'], $z);
        if (self::isBelow($caught, $others)) {
            $says[] = \sprintf(
                '%s = %s: %s caught of its events, %s of all others',
                $by,
                $name,
                self::share($caught->value),
                self::share($others->value),
            );
        }
        $others = Interval::wilson($rest['called'] - $rest['caught'], $rest['called'], $z);
        if (self::isBelow($others, $vain)) {
            $says[] = \sprintf(
                '%s = %s: %s called in vain, %s of all others',
                $by,
                $name,
                self::share($vain->value),
                self::share($others->value),
            );
        }
        if ($off->low > 0.0 || $off->high < 0.0) {
            $says[] = \sprintf(
                '%s = %s: said %s, came %s',
                $by,
                $name,
                self::share($own['said'] / $own['n']),
                self::share($own['events'] / $own['n']),
            );
        }

        return new GroupAtRisk($by, $name, $own['n'], $own['events'], $caught, $vain, $off, $says);
    }

    /** Whether the interval of the difference of two shares leaves out 0 (Newcombe 1998, method 10). */
    private static function isBelow(Interval $one, Interval $other): bool
    {
        if (null === $one->value || null === $other->value) {
            return false;
        }
        $reach = sqrt(((float) $one->high - $one->value) ** 2 + ($other->value - (float) $other->low) ** 2);

        return $one->value - $other->value + $reach < 0.0;
    }

    private static function share(?float $share): string
    {
        return \sprintf('%d in 100', (int) round(100 * ($share ?? 0.0)));
    }
}
