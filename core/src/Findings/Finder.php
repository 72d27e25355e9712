<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** Looks a table over and lists what is worth a word, the most harmful first. Definitions: docs/methods/findings.md. */
final readonly class Finder
{
    public function __construct(private Thresholds $thresholds)
    {
    }

    /** @return list<Finding> the pressing ones first */
    public function of(Subject $subject): array
    {
        $columns = new ColumnChecks($this->thresholds);
        $numbers = new NumberChecks($this->thresholds);
        $out = [];
        foreach ($subject->table->columns() as $name => $column) {
            $name = (string) $name;
            $open = \in_array($name, $subject->hidden, true) ? $subject->open : null;
            $seen = null === $open ? $column : $column->take($open);
            $found = $columns->of($name, $seen, $subject);
            if ($seen instanceof NumberColumn && ColumnUse::Target !== $subject->use($name)) {
                array_push($found, ...$numbers->of($name, $seen));
            }
            if ($seen instanceof DateColumn) {
                array_push($found, ...DateChecks::of($name, $seen));
            }
            array_push($found, ...MarkChecks::of($name, $subject->marks[$name] ?? []));
            array_push($out, ...array_map(static fn (Finding $f) => null === $open ? $f : $f->at($open), $found));
        }
        array_push($out, ...(new RelationChecks($this->thresholds))->of($subject));
        array_push($out, ...(new TargetChecks($this->thresholds))->of($subject));
        $weight = [Severity::High->value => 0, Severity::Medium->value => 1, Severity::Low->value => 2];
        $order = array_flip(array_map(strval(...), array_keys($subject->table->columns())));
        usort($out, static fn (Finding $a, Finding $b) => $weight[$a->severity->value] <=> $weight[$b->severity->value] ?: ($order[$a->columns[0] ?? ''] ?? -1) <=> ($order[$b->columns[0] ?? ''] ?? -1) ?: strcmp($a->sort, $b->sort));

        return $out;
    }
}
