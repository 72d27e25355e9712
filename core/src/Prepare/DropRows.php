<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Setting;

/** Takes out rows that miss a value in any of the chosen columns. RowWise. */
final readonly class DropRows implements Step
{
    public function __construct(private Chosen $columns)
    {
    }

    public static function described(): Described
    {
        return new Described('drop_rows', 'Drop rows with missing', 'missing', 'Takes out rows that miss a value in any of these columns. They are not learned from; new records like them are listed as not scored.', [
            new Setting('columns', 'Columns', Setting::COLUMNS),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns());
    }

    public function toArray(): array
    {
        return ['step' => 'drop_rows'] + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): FittedDropRows
    {
        return new FittedDropRows($this->columns->among($lesson->table, $lesson->rows));
    }
}
