<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

/** Something about the data that a careful analyst would want to know, with its evidence and what can be done. */
final readonly class Finding
{
    /**
     * @param string                                                                 $sort     what it is about, for example "missing code"
     * @param list<string>                                                           $columns  the columns concerned; none when it is about whole rows
     * @param string                                                                 $sentence what was found, with its figures
     * @param array<string, float|int|string|null>                                   $figures
     * @param list<int>                                                              $rows     evidence: places of records in the table looked at, the most telling first, at most 200
     * @param list<array{do: string, to?: string|null, step?: array<string, mixed>}> $remedies what can be done: "set aside", "kind" (to), "known afterwards", "step" (of a preparation)
     */
    public function __construct(
        public string $sort,
        public Severity $severity,
        public array $columns,
        public string $sentence,
        public array $figures = [],
        public array $rows = [],
        public array $remedies = [],
    ) {
    }

    /** The same finding has the same key when it is found again. */
    public function key(): string
    {
        return $this->sort.': '.implode(', ', $this->columns);
    }

    /**
     * The same about rows that were a part of the table.
     *
     * @param list<int> $places of the part's rows in the table
     */
    public function at(array $places): self
    {
        return new self($this->sort, $this->severity, $this->columns, $this->sentence, $this->figures, array_map(static fn (int $row): int => $places[$row], $this->rows), $this->remedies);
    }
}
