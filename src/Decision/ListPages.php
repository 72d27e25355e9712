<?php

declare(strict_types=1);

namespace App\Decision;

use App\Question\OpenCells;
use App\Score\ScoredTables;
use App\Table\TableColumn;
use Dokimos\Core\Act\ClassTerms;

/** The records of a list, best first: those to act on, those left untouched by draw, or all by what acting returns. */
final readonly class ListPages
{
    public const WHICH = ['acted', 'left', 'all'];

    public function __construct(private Lists $lists, private OpenCells $reader, private ScoredTables $scored)
    {
    }

    /** @param list<string> $carry */
    public function of(Decision $decision, string $which, int $offset, int $limit, array $carry): DecisionRowsView
    {
        $listed = $this->lists->of($decision->scoring(), $decision->terms());
        $all = self::picked($listed, $which);
        $page = \array_slice($all, max(0, $offset), max(1, min(500, $limit)));
        $names = array_values(array_filter(
            array_map(static fn (TableColumn $c): string => $c->name(), $decision->scoring()->table()->columns()),
            static fn (string $name): bool => \in_array($name, $carry, true),
        ));

        return new DecisionRowsView(\count($all), max(0, $offset), $names, $this->rows($decision, $listed, $page, $names));
    }

    /** @return list<int> */
    public static function picked(Listed $listed, string $which): array
    {
        return match ($which) {
            'acted' => $listed->chosen->acted,
            'left' => $listed->chosen->left,
            default => $listed->list->order,
        };
    }

    /**
     * @param list<int>    $page
     * @param list<string> $names
     *
     * @return list<DecisionRowView>
     */
    public function rows(Decision $decision, Listed $listed, array $page, array $names): array
    {
        if ([] === $page) {
            return [];
        }
        $scoring = $decision->scoring();
        $places = array_flip($listed->chosen->acted);
        $left = array_fill_keys($listed->chosen->left, true);
        $cells = $this->reader->rows($scoring->table(), $page, $names);
        $lines = $this->scored->lines($scoring, $page);
        $because = $scoring->because()['sentences'] ?? [];
        $classes = $listed->terms instanceof ClassTerms ? $listed->terms : null;
        $actions = $decision->terms()->actions;
        $finite = static fn (float $v): ?float => is_finite($v) ? $v : null;
        $rows = [];
        foreach ($page as $row) {
            $rows[] = new DecisionRowView(
                $row + 1,
                isset($places[$row]) ? $places[$row] + 1 : null,
                isset($left[$row]),
                $finite($listed->chances[$row]),
                $finite($listed->values[$row]),
                $finite($listed->list->returns[$row]),
                is_finite($listed->chances[$row] + $listed->values[$row]) ? $listed->rank($row) : null,
                null === $classes || $classes->actions[$row] < 0 ? null : $actions[$classes->actions[$row]]['name'],
                $because[$row + 1] ?? $lines[$row]['reasons'],
                array_values($cells[$row]),
            );
        }

        return $rows;
    }
}
