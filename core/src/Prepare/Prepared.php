<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/**
 * A table on its way through the steps. Rows keep their places: one that a step takes out stays where it was, with the reason, so that
 * no record of a batch disappears and chances line up with the rows they were asked for.
 */
final readonly class Prepared
{
    /** @param array<int, string> $out why a row was taken out, by row */
    public function __construct(public Table $table, public array $out = [])
    {
    }

    public function rows(): int
    {
        return $this->table->rows - \count($this->out);
    }

    /** Missing cells of the rows that are kept. */
    public function missing(): int
    {
        $missing = $this->table->missing();
        foreach ([] === $this->out ? [] : $this->table->columns() as $column) {
            foreach ($this->out as $row => $_) {
                $missing -= $column->isMissing($row) ? 1 : 0;
            }
        }

        return $missing;
    }

    /**
     * Rows that are kept and have a value in every column to learn from: those that a learner can answer which takes no missing value.
     *
     * @param list<string> $without columns that are no inputs; texts and identifiers never are
     */
    public function complete(array $without = []): int
    {
        $lacking = $this->out;
        foreach ($this->table->columns() as $name => $column) {
            if (\in_array($column->kind(), [Kind::Text, Kind::Identifier], true) || \in_array((string) $name, $without, true) || 0 === $column->missing()) {
                continue;
            }
            for ($row = 0; $row < $this->table->rows; ++$row) {
                if ($column->isMissing($row)) {
                    $lacking[$row] = '';
                }
            }
        }

        return $this->table->rows - \count($lacking);
    }

    /**
     * @param list<int> $rows
     *
     * @return list<int> those of them that are kept
     */
    public function among(array $rows): array
    {
        return [] === $this->out ? $rows : array_values(array_filter($rows, fn (int $row) => !isset($this->out[$row])));
    }

    public function after(FittedStep $step): self
    {
        // What is taken out is decided on the table as the step finds it.
        $out = $step instanceof TakesOut ? $this->out + $step->out($this->table) : $this->out;

        return new self($step->apply($this->table), $out);
    }
}
