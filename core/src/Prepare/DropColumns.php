<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Setting;

/** Leaves out columns that are missing in more than a share of the training rows. */
final readonly class DropColumns implements Step
{
    public function __construct(private float $share)
    {
    }

    public static function described(): Described
    {
        return new Described('drop_columns', 'Drop columns mostly missing', 'missing', 'Leaves out every column that lacks more than a share of its cells in the training rows.', [
            new Setting('share', 'missing in more than this share', Setting::NUMBER, default: 0.6, least: 0.0, most: 1.0),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->number('share', 0.6, 0.0, 1.0));
    }

    public function toArray(): array
    {
        return ['step' => 'drop_columns', 'share' => $this->share];
    }

    public function fit(Lesson $lesson): Aside
    {
        $names = $said = [];
        foreach ($lesson->table->names() as $name) {
            $missing = \count(array_filter($lesson->rows, $lesson->table->column($name)->isMissing(...)));
            if ($missing > $this->share * \count($lesson->rows)) {
                $names[] = $name;
                $said[] = \sprintf('%s (%s)', $name, Words::share($missing / \count($lesson->rows)));
            }
        }

        return new Aside('drop_columns', $names, [] === $names ? \sprintf('Drops nothing: no column lacks more than %s of its cells.', Words::share($this->share)) : \sprintf('Drops %s: missing in more than %s of the training rows.', Words::listed($said), Words::share($this->share)));
    }
}
