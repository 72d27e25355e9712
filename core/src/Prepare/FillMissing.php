<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/**
 * Fills missing cells with what the training rows say: their mean, median or most frequent value, of all or of the same group, or what a
 * regression on the other columns expects; or with zero or a constant. Optionally a yes/no column says which cells were missing.
 */
final readonly class FillMissing implements Step
{
    public const MEDIAN = 'median';
    public const MEAN = 'mean';
    public const MOST_FREQUENT = 'most frequent';
    public const ZERO = 'zero';
    public const CONSTANT = 'constant';
    public const BY_GROUP = 'median by group';
    public const BY_MODEL = 'by model';
    public const METHODS = [self::MEDIAN, self::MEAN, self::MOST_FREQUENT, self::ZERO, self::CONSTANT, self::BY_GROUP, self::BY_MODEL];
    private const FIT = [Kind::Number, Kind::Date, Kind::Category, Kind::YesNo];

    public function __construct(private Chosen $columns, public string $method = self::MEDIAN, private bool $mark = false, private string $constant = '', private string $group = '')
    {
    }

    public static function described(): Described
    {
        $kinds = array_map(static fn (Kind $k) => $k->value, self::FIT);

        return new Described('fill_missing', 'Fill missing', 'missing', 'Puts a value where cells are missing, learned on training rows.', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: $kinds),
            new Setting('method', 'with', Setting::CHOICE, choices: self::METHODS, default: self::MEDIAN, explanation: 'Categories take their most frequent value where there is no mean or median.'),
            new Setting('constant', 'the value', Setting::TEXT, when: ['method' => [self::CONSTANT]]),
            new Setting('group', 'of each', Setting::COLUMN, kinds: [Kind::Category->value, Kind::YesNo->value], when: ['method' => [self::BY_GROUP]]),
            new Setting('mark', 'add a yes/no column that says it was missing', Setting::YES, default: false),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        $method = $given->choice('method', self::METHODS);

        return new self(
            $given->columns(),
            $method,
            $given->yes('mark'),
            self::CONSTANT === $method ? $given->required('constant', 'Say the value to fill with.') : '',
            self::BY_GROUP === $method ? $given->required('group', 'Choose the column whose groups are filled each by itself.') : '',
        );
    }

    public function toArray(): array
    {
        return ['step' => 'fill_missing', 'method' => $this->method, 'mark' => $this->mark] + $this->columns->toArray()
            + array_filter(['constant' => $this->constant, 'group' => $this->group], static fn (string $t) => '' !== $t);
    }

    public function fit(Lesson $lesson): FittedFill
    {
        $table = $lesson->table;
        $short = $this->columns->among($table, $lesson->rows, self::FIT, 'can be filled this way');
        $names = $this->columns->isLasting() ? $this->columns->whetherMissingOrNot()->among($table, $lesson->rows, self::FIT) : $short;
        $groups = '' === $this->group ? null : $this->groups($lesson);
        $fills = $byGroup = $models = $marks = [];
        $filled = 0;
        foreach ($names as $name) {
            $column = $table->column($name);
            $isShort = \in_array($name, $short, true);
            try {
                $fills[$name] = $this->value($name, $column, $lesson->rows);
            } catch (CannotPrepare $e) {
                // A column without a value in any training row can be left as it is when nobody named it.
                if ($isShort) {
                    throw $e;
                }
                continue;
            }
            foreach ($groups ?? [] as $level => $rows) {
                try {
                    $byGroup[$name][(string) $level] = $this->value($name, $column, $rows);
                } catch (CannotPrepare) {
                    // A group without a value takes that of all.
                }
            }
            if (self::BY_MODEL === $this->method && $column instanceof NumberColumn && $isShort) {
                $models[$name] = Guess::fit($table, $lesson->rows, $name);
            }
            if ($isShort) {
                $filled += $lesson->missing($column);
                if ($this->mark) {
                    $marks[] = $name;
                }
            }
        }

        return new FittedFill($fills, $this->method, $marks, $filled, $short, $this->group, $byGroup, $models);
    }

    /** @return array<array-key, list<int>> training rows by level of the group column */
    private function groups(Lesson $lesson): array
    {
        $by = $lesson->table->has($this->group) ? $lesson->table->column($this->group) : throw Chosen::absent($this->group);
        if (!$by instanceof CodedColumn) {
            throw new CannotPrepare(\sprintf('%s holds %s; groups come from a category or yes/no.', $this->group, $by->kind()->value));
        }
        $groups = [];
        foreach ($lesson->rows as $row) {
            if ($by->codes[$row] >= 0) {
                $groups[$by->levels[$by->codes[$row]]][] = $row;
            }
        }

        return $groups;
    }

    /** @param list<int> $rows */
    private function value(string $name, Column $column, array $rows): float|int|string
    {
        if (self::CONSTANT === $this->method) {
            $parser = new CellParser();
            $value = match (true) {
                $column instanceof NumberColumn => $parser->number($this->constant),
                $column instanceof DateColumn => $parser->date($this->constant),
                default => $this->constant,
            };

            return $value ?? throw new CannotPrepare(\sprintf('"%s" is not a %s; %s holds nothing else.', $this->constant, $column->kind()->value, $name));
        }
        if ($column instanceof CodedColumn) {
            return self::ZERO === $this->method ? throw new CannotPrepare(\sprintf('%s holds %s; only numbers can be filled with zero.', $name, $column->kind()->value)) : self::level($name, $column, $rows);
        }
        if (self::ZERO === $this->method) {
            return $column instanceof NumberColumn ? 0.0 : throw new CannotPrepare(\sprintf('%s holds %s; only numbers can be filled with zero.', $name, $column->kind()->value));
        }
        $known = [];
        foreach ($rows as $row) {
            $known[] = match (true) {
                $column instanceof NumberColumn => $column->values[$row],
                $column instanceof DateColumn && DateColumn::MISSING !== $column->seconds[$row] => (float) $column->seconds[$row],
                default => \NAN,
            };
        }
        $value = NumberSummary::of($known)->figure(match ($this->method) {
            self::MEAN => 'mean',
            self::MOST_FREQUENT => 'mode',
            default => 'median',
        });
        if (null === $value) {
            throw self::nothing($name);
        }

        return $column instanceof DateColumn ? (int) round($value) : (float) $value;
    }

    /** @param list<int> $rows */
    private static function level(string $name, CodedColumn $column, array $rows): string
    {
        $best = null;
        $most = 0;
        foreach ($column->counts($rows) as $code => $count) {
            // Ties go to the first in byte order, so that the result does not depend on the order of rows.
            if ($count > $most || $count === $most && null !== $best && $count > 0 && strcmp($column->levels[$code], $best) < 0) {
                $best = $column->levels[$code];
                $most = $count;
            }
        }

        return $best ?? throw self::nothing($name);
    }

    private static function nothing(string $name): CannotPrepare
    {
        return new CannotPrepare(\sprintf('%s has no value in any training row, so there is nothing to fill it with. Set it aside.', $name));
    }
}
