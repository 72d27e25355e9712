<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Table;

/** What a step may learn from: the table as it is at this point, the training rows still in it, and their outcomes. */
final readonly class Lesson
{
    /**
     * @param list<int>          $rows  training rows that no earlier step took out, ascending
     * @param ?list<float>       $event per row of the table: 1 = the event, 0 = not, NAN = unknown; null before a target is chosen
     * @param array<int, string> $out   rows that earlier steps took out, by row: what is counted does not count them
     */
    public function __construct(public Table $table, public array $rows, public ?array $event = null, public array $out = [])
    {
    }

    /**
     * @return list<float> 1 where the event came, 0 where not, NAN where it is not known
     *
     * @throws CannotPrepare this step learns from the target; choose one in the Table station first
     */
    public function event(): array
    {
        return $this->event ?? throw new CannotPrepare('This step learns from the target; choose one in the Table station first.');
    }

    /** Missing cells of a column of this table, in the rows that are kept. */
    public function missing(Column $column): int
    {
        $missing = $column->missing();
        foreach (0 === $missing ? [] : $this->out as $row => $_) {
            $missing -= $column->isMissing($row) ? 1 : 0;
        }

        return $missing;
    }

    /** @return list<int> training rows whose outcome is known */
    public function judged(): array
    {
        $event = $this->event();

        return array_values(array_filter($this->rows, static fn (int $r) => $event[$r] === $event[$r]));
    }
}
