<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Setting;

/** Keeps some columns and leaves all others out of what follows. */
final readonly class KeepOnly implements Step
{
    public function __construct(private Chosen $columns)
    {
    }

    public static function described(): Described
    {
        return new Described('keep_only', 'Keep only these columns', 'columns', 'Keeps some columns and leaves all others out of what follows.', [
            new Setting('columns', 'Columns to keep', Setting::COLUMNS),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns());
    }

    public function toArray(): array
    {
        return ['step' => 'keep_only'] + $this->columns->toArray();
    }

    /** @throws CannotPrepare No column is of that sort, so none would be left. */
    public function fit(Lesson $lesson): Aside
    {
        $kept = $this->columns->among($lesson->table, $lesson->rows);
        if ([] === $kept) {
            throw new CannotPrepare('No column is of that sort, so none would be left.');
        }
        $others = array_values(array_diff($lesson->table->names(), $kept));

        return new Aside('keep_only', $others, \sprintf('Keeps %s; sets %s aside.', Words::listed($kept), [] === $others ? 'nothing' : Words::listed($others)));
    }
}
