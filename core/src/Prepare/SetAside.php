<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Setting;

/** Leaves columns out of everything that follows. */
final readonly class SetAside implements Step
{
    public function __construct(private Chosen $columns)
    {
    }

    public static function described(): Described
    {
        return new Described('set_aside', 'Set columns aside', 'columns', 'Leaves columns out of everything that follows.', [
            new Setting('columns', 'Columns', Setting::COLUMNS),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns());
    }

    public function toArray(): array
    {
        return ['step' => 'set_aside'] + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): Aside
    {
        $names = $this->columns->among($lesson->table, $lesson->rows);

        return new Aside('set_aside', $names, [] === $names ? 'Sets nothing aside: no column is of that sort.' : \sprintf('Sets %s aside.', Words::listed($names)));
    }
}
