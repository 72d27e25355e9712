<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;

/** Puts the rare values of categories together, and with them every value that training rows never showed. */
final readonly class GroupRare implements Step
{
    public function __construct(private Chosen $columns, private float $share, private string $name)
    {
    }

    public static function described(): Described
    {
        return new Described('group_rare', 'Group rare values', 'values', 'Puts values together that hold less than a share of the training rows, and with them values never seen there.', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: [Kind::Category->value]),
            new Setting('share', 'less than this share', Setting::NUMBER, default: 0.01, least: 0.0, most: 0.5),
            new Setting('name', 'together called', Setting::TEXT, default: 'other'),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns(), $given->number('share', 0.01, 0.0, 0.5), '' === trim($given->text('name', 'other')) ? 'other' : trim($given->text('name', 'other')));
    }

    public function toArray(): array
    {
        return ['step' => 'group_rare', 'share' => $this->share, 'name' => $this->name] + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): FittedLevels
    {
        $kept = [];
        $grouped = 0;
        foreach ($this->columns->among($lesson->table, $lesson->rows, [Kind::Category], 'has rare values to group') as $name) {
            $column = $lesson->table->column($name);
            \assert($column instanceof CodedColumn);
            $counts = $column->counts($lesson->rows);
            $known = array_sum($counts);
            $kept[$name] = [];
            foreach ($column->levels as $code => $level) {
                if ($counts[$code] > 0 && $counts[$code] >= $this->share * $known) {
                    $kept[$name][] = $level;
                } elseif ($counts[$code] > 0) {
                    ++$grouped;
                }
            }
        }

        return new FittedLevels($kept, $this->name, $grouped, $this->share);
    }
}
