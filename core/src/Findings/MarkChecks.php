<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Prepare\Words;

/** Numbers that were written with other units beside them: amounts of several currencies, percents among plain numbers. */
final class MarkChecks
{
    /**
     * @param array<string, int> $marks how many cells were written with each mark; "" = without one
     *
     * @return list<Finding> values that stand for a missing one
     */
    public static function of(string $name, array $marks): array
    {
        $plain = $marks[''] ?? 0;
        $percents = $marks['%'] ?? 0;
        $currencies = array_diff_key($marks, ['' => 0, '%' => 0]);
        arsort($currencies);
        $out = [];
        if (\count($currencies) > 1) {
            $said = array_map(static fn (int $n, string $mark): string => number_format($n).' '.$mark, $currencies, array_keys($currencies));
            $out[] = new Finding('mixed kinds', Severity::High, [$name], \sprintf('%s holds amounts of several currencies: %s%s. All were read as plain numbers.', $name, Words::listed($said, 6), $plain > 0 ? \sprintf(', and %s without one', number_format($plain)) : ''), ['records' => array_sum($currencies)]);
        }
        if ($percents > 0 && $plain + array_sum($currencies) > 0) {
            $out[] = new Finding('mixed kinds', Severity::High, [$name], \sprintf('%s holds %s among %s: 5%% was read as 0.05, 5 as 5.', $name, Words::count($percents, 'percent value'), Words::count($plain + array_sum($currencies), 'plain number')), ['records' => $percents]);
        }

        return $out;
    }
}
