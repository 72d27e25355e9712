<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Learn\ShownRule;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\Verdict;

/** Rules written down to be taken elsewhere, in the order they answer: as sentences, as a table, or as a condition of SQL. */
final class RulesText
{
    /**
     * @param list<ShownRule>    $rules
     * @param 'text'|'csv'|'sql' $way
     * @param string             $event of two classes the one whose chance SQL answers; '' where it answers with the likeliest class
     * @param bool               $sound only rules that are worth stating; SQL always has all, since each record has to have an answer
     */
    public static function of(array $rules, string $way, string $target, string $event, bool $sound): string
    {
        if (TreeText::SQL === $way) {
            $lines = array_map(static fn (ShownRule $r): string => \sprintf('  WHEN %s THEN %s', $r->sql, match (true) {
                '' === $event => "'".str_replace("'", "''", $r->class)."'",
                default => json_encode($r->class === $event ? $r->chance : 1.0 - $r->chance),
            }), $rules);

            return "CASE\n".implode("\n", $lines)."\nEND AS \"".str_replace('"', '""', $target)."\"\n";
        }
        $number = static fn (?float $v): string => null === $v ? '' : (string) (float) \sprintf('%.6g', $v);
        $csv = [['rule', 'if', 'sql', 'then', 'rows', 'share', 'low', 'high', 'training_rows', 'training', 'chance', 'verdict']];
        $text = '';
        foreach ($rules as $i => $rule) {
            $rows = (int) round($rule->rows);
            $share = Interval::wilson($rule->hits, $rule->rows);
            $verdict = Verdict::of($share, $rows, $rule->overall);
            if ($sound && 'Sound' !== $verdict) {
                continue;
            }
            $csv[] = [
                (string) ($i + 1), $rule->says, $rule->sql, $rule->class, (string) $rows, $number($share->value), $number($share->low),
                $number($share->high), (string) (int) round($rule->grown), $number($rule->trainingShare), $number($rule->chance), $verdict,
            ];
            $text .= \sprintf(
                "%d. %s → %s: %s%s, of %s rows. %s\n",
                $i + 1,
                $rule->says,
                $rule->class,
                $number($share->value ?? $rule->chance),
                null === $share->low ? '' : \sprintf(' (%s to %s)', $number($share->low), $number($share->high)),
                number_format($rows),
                $verdict,
            );
        }

        return TreeText::CSV === $way ? implode('', array_map(CsvWriter::line(...), $csv)) : $text;
    }
}
