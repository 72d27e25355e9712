<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** What a learner is given: a prepared table, the inputs, the event per row, and the rows it may learn from. */
final readonly class Task
{
    /**
     * @param list<string> $inputs
     * @param list<float>  $event   1 = the event, 0 = not, NAN = unknown; one per row of the table
     * @param list<int>    $rows    training rows; those with an unknown event are left out
     * @param ?list<float> $weights one per row of the table
     */
    public function __construct(public Table $table, public array $inputs, public array $event, public array $rows, public ?array $weights = null)
    {
        foreach ([$event, $weights ?? $event] as $list) {
            if (\count($list) !== $table->rows) {
                throw new \LengthException('Events and weights need one value per row.');
            }
        }
    }

    /** @return list<int> training rows with a known event and a positive weight */
    public function usable(): array
    {
        $rows = [];
        foreach ($this->rows as $row) {
            if (!is_nan($this->event[$row]) && (null === $this->weights || $this->weights[$row] > 0.0)) {
                $rows[] = $row;
            }
        }

        return $rows;
    }
}
