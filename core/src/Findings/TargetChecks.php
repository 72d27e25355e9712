<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Findings\Outcome\EventOutcome;
use Dokimos\Core\Prepare\Words;
use Dokimos\Core\Table\Column;

/** What the target shows, and which columns know it too well. */
final readonly class TargetChecks
{
    private const SETTLED = 0.98;

    public function __construct(private Thresholds $thresholds)
    {
    }

    /** @return list<Finding> what goes suspiciously well with the target */
    public function of(Subject $subject): array
    {
        if (null === $subject->event || null === $subject->target) {
            return [];
        }
        $known = array_filter($subject->event, static fn (float $e) => $e === $e);
        if ([] === $known) {
            return [];
        }
        $share = array_sum($known) / \count($known);
        $out = [];
        if (min($share, 1 - $share) < $this->thresholds->of('imbalance_share')) {
            $out[] = new Finding('imbalance', Severity::Low, [$subject->target], \sprintf('%s is "%s" in %s%% of the records: always answering the other way would be right in %s%%, so accuracy says little here.', $subject->target, $subject->eventName, Words::number(100 * $share), Words::number(100 * max($share, 1 - $share))), ['share' => $share]);
        }

        return [...$out, ...$this->leaks($subject, $subject->event)];
    }

    /**
     * Columns that alone rank the outcome so much better than the rest that they were probably written down after it.
     *
     * @param list<float> $event
     *
     * @return list<Finding>
     */
    private function leaks(Subject $subject, array $event): array
    {
        $strength = [];
        foreach ($subject->table->columns() as $name => $column) {
            $name = (string) $name;
            // Keys and columns set aside are not used, columns known to be late are settled.
            if ($subject->mayTell($name)) {
                $s = TargetStrength::of($column, new EventOutcome($event));
                if (null !== $s) {
                    $strength[$name] = $s;
                }
            }
        }
        uasort($strength, static fn (TargetStrength $a, TargetStrength $b) => $b->alone <=> $a->alone);
        $aucs = array_map(static fn (TargetStrength $s) => $s->alone, array_values($strength));
        // Far above the rest, and not merely telling but nearly settling the outcome for a good part of the events.
        $from = null;
        foreach (array_values($strength) as $i => $s) {
            if ($s->alone < $this->thresholds->of('leak_auc') || $s->settled < $this->thresholds->of('leak_settled')) {
                break;
            }
            if ($s->alone - ($aucs[$i + 1] ?? 0.5) >= $this->thresholds->of('leak_lead')) {
                $from = $s->alone;
            }
        }
        $out = [];
        foreach ($strength as $name => $s) {
            $name = (string) $name;
            if (null === $from || $s->alone < $from) {
                break;
            }
            $filled = $this->onlyFilledFor($subject->table->column($name), $event, (string) $subject->eventName);
            $out[] = new Finding(
                'leak suspicion',
                // An honest column may be strong; one that all but settles the outcome, or is filled for one outcome only, is hardly honest.
                '' !== $filled || $s->alone >= self::SETTLED ? Severity::High : Severity::Medium,
                [$name],
                \sprintf('%s alone ranks %s with an AUC of %.2f (%.2f to %.2f); the best of the others reaches %.2f. Was it known when the decision is made?%s', $name, (string) $subject->target, $s->alone, $s->low, $s->high, self::next($aucs, $from), $filled),
                ['auc' => $s->alone, 'low' => $s->low, 'high' => $s->high, 'settled' => $s->settled],
                [],
                [['do' => 'known afterwards'], ['do' => 'set aside']],
            );
        }

        return $out;
    }

    /** @param list<float> $aucs descending */
    private static function next(array $aucs, float $from): float
    {
        foreach ($aucs as $auc) {
            if ($auc < $from) {
                return $auc;
            }
        }

        return 0.5;
    }

    /** @param list<float> $event */
    private function onlyFilledFor(Column $column, array $event, string $name): string
    {
        $filled = $hits = 0;
        foreach ($event as $row => $e) {
            if ($e === $e && !$column->isMissing($row)) {
                ++$filled;
                $hits += $e > 0.5 ? 1 : 0;
            }
        }
        if (0 === $column->missing() || 0 === $filled) {
            return '';
        }
        $share = $hits / $filled;

        return $share > 0.9 || $share < 0.1 ? \sprintf(' It is filled almost only %s "%s".', $share > 0.9 ? 'with' : 'without', $name) : '';
    }
}
