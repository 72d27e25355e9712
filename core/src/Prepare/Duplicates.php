<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Setting;

/** Of training rows that are equal in the chosen columns the first is learned from. TableShaping: it looks at other rows. */
final readonly class Duplicates implements Step
{
    public function __construct(private Chosen $columns)
    {
    }

    public static function described(): Described
    {
        return new Described('duplicates', 'Remove duplicates', 'rows', 'Of training rows that are equal in these columns only the first is learned from. New records stay as they are.', [
            new Setting('columns', 'Equal in', Setting::COLUMNS),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns());
    }

    public function toArray(): array
    {
        return ['step' => 'duplicates'] + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): FittedDuplicates
    {
        $columns = array_map($lesson->table->column(...), $this->columns->among($lesson->table, $lesson->rows));
        $seen = $out = [];
        foreach ($lesson->rows as $row) {
            $key = '';
            foreach ($columns as $column) {
                $text = $column->text($row);
                // The length keeps neighbors apart; a missing cell is its own value.
                $key .= null === $text ? '-' : \strlen($text).':'.$text;
            }
            $key = hash('xxh128', $key, true);
            if (isset($seen[$key])) {
                $out[$row] = 'equal to an earlier record';
            }
            $seen[$key] = true;
        }

        return new FittedDuplicates($out, \count($out), $this->columns->isLasting() ? 'all of these columns' : Words::listed($this->columns->names));
    }
}
