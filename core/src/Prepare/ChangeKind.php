<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Table\Kind;

/** Reads columns as another kind, for this variant only. Cells that do not fit become missing. */
final readonly class ChangeKind implements Step
{
    public function __construct(private Chosen $columns, private Kind $to)
    {
    }

    public static function described(): Described
    {
        return new Described('change_kind', 'Change kind', 'columns', 'Reads columns as another kind, in this variant only. Cells that do not fit become missing.', [
            new Setting('columns', 'Columns', Setting::COLUMNS),
            new Setting('kind', 'becomes', Setting::CHOICE, array_map(static fn (Kind $k) => $k->value, Kind::cases()), Kind::Category->value),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns(), Kind::from($given->choice('kind', [Kind::Category->value, ...array_map(static fn (Kind $k) => $k->value, Kind::cases())])));
    }

    public function toArray(): array
    {
        return ['step' => 'change_kind', 'kind' => $this->to->value] + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): FittedKind
    {
        $names = $this->columns->among($lesson->table, $lesson->rows);
        $lost = 0;
        foreach ($names as $name) {
            $before = $lesson->table->column($name);
            $lost += $lesson->missing(self::read($before, $this->to)) - $lesson->missing($before);
        }

        return new FittedKind($names, $this->to, $lost);
    }

    /** Yes/no takes two values only; any other spelling of them does not fit. */
    public static function read(\Dokimos\Core\Table\Column $column, Kind $to): \Dokimos\Core\Table\Column
    {
        return Conversion::to($column, $to);
    }
}
