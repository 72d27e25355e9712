<?php

declare(strict_types=1);

namespace App\Finding;

/** All that was found in a table, the most harmful first, and what each column tells about the target. */
final readonly class FindingsView
{
    /**
     * @param int                $looked    records looked at; fewer than all of a large table
     * @param list<FindingView>  $findings
     * @param list<RelationView> $relations the strongest first
     * @param list<RuleView>     $rules     the most telling first, those that fell among them
     * @param string             $task      two classes, several classes or number
     * @param int                $judged    records whose target was looked at; the sealed ones are not among them
     */
    public function __construct(public int $looked, public int $rows, public array $findings, public array $relations, public array $rules, public ?string $target, public ?string $event, public string $task, public int $judged)
    {
    }
}
