<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Trial\Trial;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Table\Table;

/** A record that is asked about: of a study's table or of a batch, as it came or with other cells. */
final readonly class Subject
{
    /**
     * @param Table                  $record as the model asks for it, one row
     * @param array<string, ?string> $cells  as they came
     * @param int                    $number from 1
     * @param int                    $rows   of its table
     * @param bool                   $sealed whether its outcome may not be seen
     * @param ?int                   $itself its place among the records seen, if it is one
     * @param bool                   $handed whether the model fitted once more on all records answers
     */
    public function __construct(
        public Trial $trial,
        public Reasoning $reasoning,
        public Table $record,
        public array $cells,
        public int $number,
        public int $rows,
        public bool $sealed,
        public ?int $itself,
        public bool $handed = false,
    ) {
    }

    public function with(Table $record): self
    {
        return new self(
            $this->trial,
            $this->reasoning,
            $record,
            $this->cells,
            $this->number,
            $this->rows,
            $this->sealed,
            null,
            $this->handed,
        );
    }
}
