<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** What a step costs or changes: rows, columns and missing cells before and after. */
final readonly class Toll
{
    public function __construct(
        public int $rowsBefore,
        public int $rowsAfter,
        public int $columnsBefore,
        public int $columnsAfter,
        public int $missingBefore,
        public int $missingAfter,
    ) {
    }

    public static function between(Prepared $before, Prepared $after): self
    {
        return new self($before->rows(), $after->rows(), \count($before->table->columns()), \count($after->table->columns()), $before->missing(), $after->missing());
    }

    /** Counts of rows and cells in a sample, carried to the whole table. */
    public function scaled(float $factor): self
    {
        $times = static fn (int $n): int => (int) round($n * $factor);

        return new self($times($this->rowsBefore), $times($this->rowsAfter), $this->columnsBefore, $this->columnsAfter, $times($this->missingBefore), $times($this->missingAfter));
    }
}
