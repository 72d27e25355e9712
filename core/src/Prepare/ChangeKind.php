<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
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
            new Setting('kind', 'becomes', Setting::CHOICE, choices: array_map(static fn (Kind $k) => $k->value, Kind::cases()), default: Kind::Category->value),
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

    /** What does not say yes or no, in one of the usual spellings, does not fit yes/no. */
    public static function read(Column $column, Kind $to): Column
    {
        if (Kind::YesNo !== $to || Kind::YesNo === $column->kind()) {
            return Conversion::to($column, $to);
        }
        $codes = [];
        for ($row = 0, $rows = $column->count(); $row < $rows; ++$row) {
            $text = $column->text($row);
            $said = null === $text ? null : CellParser::yesNo($text);
            $codes[] = null === $said ? -1 : ($said ? 0 : 1);
        }

        return new CodedColumn($codes, ['yes', 'no'], Kind::YesNo);
    }
}
