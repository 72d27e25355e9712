<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Lookup;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Fills missing cells with values learned from training rows. RowWise. */
final readonly class FittedFill implements FittedStep, AsFrame
{
    /**
     * @param array<array-key, float|int|string>                   $fills   by column (dates in seconds)
     * @param list<string>                                         $marks   columns of which a yes/no column says where they were missing
     * @param int                                                  $filled  missing cells in the table it was learned on
     * @param list<string>                                         $short   columns that lacked cells there
     * @param string                                               $group   the column of groups; none when empty
     * @param array<array-key, array<array-key, float|int|string>> $byGroup by column and group
     * @param array<array-key, Guess>                              $models  by column
     */
    public function __construct(private array $fills, private string $method, private array $marks, private int $filled, private array $short, private string $group = '', private array $byGroup = [], private array $models = [])
    {
    }

    /** The name of the yes/no column that tells where a column was missing. */
    public static function markName(string $column): string
    {
        return $column.'_was_missing';
    }

    public function apply(Table $table): Table
    {
        // Models and groups look at the table as it came, not at what this step has filled already.
        $came = $table;
        foreach ($this->fills as $name => $fill) {
            // Names made of digits become integers as array keys.
            $name = (string) $name;
            if (!$came->has($name)) {
                continue;
            }
            $column = $came->column($name);
            $gaps = [];
            for ($row = 0; $row < $came->rows; ++$row) {
                if ($column->isMissing($row)) {
                    $gaps[] = $row;
                }
            }
            if ([] !== $gaps) {
                $table = $table->with($name, $this->filled($column, $gaps, $this->values($came, $name, $fill, $gaps)));
            }
            if (\in_array($name, $this->marks, true)) {
                $codes = $came->rows > 0 ? array_fill(0, $came->rows, 1) : [];
                foreach ($gaps as $row) {
                    $codes[$row] = 0;
                }
                $table = $table->with(self::markName($name), new CodedColumn(array_values($codes), ['yes', 'no'], Kind::YesNo));
            }
        }

        return $table;
    }

    /**
     * @param list<int> $gaps
     *
     * @return array<int, float|int|string> by row
     */
    private function values(Table $table, string $name, float|int|string $fill, array $gaps): array
    {
        $values = array_fill_keys($gaps, $fill);
        $by = isset($this->byGroup[$name]) && $table->has($this->group) ? $table->column($this->group) : null;
        if (null !== $by) {
            foreach ($gaps as $row) {
                $values[$row] = $this->byGroup[$name][$by->text($row) ?? ''] ?? $fill;
            }
        }
        if (isset($this->models[$name])) {
            $values = $this->models[$name]->predict($table, $gaps) + $values;
        }

        return $values;
    }

    /**
     * @param list<int>                    $gaps
     * @param array<int, float|int|string> $fills by row
     */
    private function filled(Column $column, array $gaps, array $fills): Column
    {
        if ($column instanceof NumberColumn) {
            $values = $column->values;
            foreach ($gaps as $row) {
                $values[$row] = (float) $fills[$row];
            }

            return new NumberColumn(array_values($values));
        }
        if ($column instanceof DateColumn) {
            $seconds = $column->seconds;
            foreach ($gaps as $row) {
                $seconds[$row] = (int) $fills[$row];
            }

            return new DateColumn(array_values($seconds));
        }
        if (!$column instanceof CodedColumn) {
            return $column;
        }
        $levels = $column->levels;
        $codes = $column->codes;
        $known = array_flip($levels);
        foreach ($gaps as $row) {
            $level = (string) $fills[$row];
            if (!isset($known[$level])) {
                $known[$level] = \count($levels);
                $levels[] = $level;
            }
            $codes[$row] = $known[$level];
        }

        return new CodedColumn(array_values($codes), $levels, $column->kind());
    }

    public function asks(array $wanted): array
    {
        $made = [];
        foreach (array_keys($this->fills) as $name) {
            $name = (string) $name;
            $made[$name] = [$name, ...(isset($this->byGroup[$name]) ? [$this->group] : []), ...(isset($this->models[$name]) ? $this->models[$name]->columns() : [])];
            $made[self::markName($name)] = \in_array($name, $this->marks, true) ? [$name] : [self::markName($name)];
        }

        return Asked::before($wanted, $made);
    }

    public function sentence(): string
    {
        if ([] === $this->short) {
            return 'Fills nothing here: no column has missing cells. It will, should new records have some.';
        }
        if (0 === $this->filled) {
            return \sprintf('Fills nothing here: %s misses no cell. It will, should new records do.', Words::listed($this->short, 4, 'or'));
        }
        $what = array_map(fn (string $name) => \sprintf('%s (%s)', $name, $this->said($name)), $this->short);

        return \sprintf('Fills %s %s: %s.%s', Words::count($this->filled, 'missing cell'), $this->named(), Words::listed($what), [] === $this->marks ? '' : ' A yes/no column keeps where.');
    }

    /** @return list<string> "boiler_age 11 instead of 9", for each column that another fit fills otherwise */
    public function differing(self $other): array
    {
        $said = [];
        foreach ($this->fills as $name => $fill) {
            if (isset($other->fills[$name]) && $other->fills[$name] !== $fill) {
                $said[] = \sprintf('%s instead of %s for %s', self::write($fill), self::write($other->fills[$name]), $name);
            }
        }

        return $said;
    }

    private static function write(float|int|string $fill): string
    {
        return match (true) {
            \is_string($fill) => $fill,
            \is_int($fill) => DateColumn::write($fill),
            default => Words::number($fill),
        };
    }

    private function said(string $name): string
    {
        $fill = $this->fills[$name];
        if (isset($this->models[$name])) {
            return 'by regression';
        }
        if (isset($this->byGroup[$name]) && !\is_string($fill)) {
            $own = array_filter($this->byGroup[$name], static fn (float|int|string $v) => !\is_string($v));

            return [] === $own ? self::write($fill) : self::write(min($own)).' to '.self::write(max($own));
        }

        return self::write($fill);
    }

    private function named(): string
    {
        $texts = array_filter(array_map(fn (string $n) => $this->fills[$n], $this->short), is_string(...));

        return match (true) {
            FillMissing::CONSTANT === $this->method => 'with a constant',
            FillMissing::ZERO === $this->method => 'with zero',
            FillMissing::BY_GROUP === $this->method => \sprintf('with the median, or for categories the most frequent value, of the training rows with the same %s', $this->group),
            FillMissing::BY_MODEL === $this->method => 'with what the other columns lead to expect in training rows',
            FillMissing::MOST_FREQUENT === $this->method || \count($texts) === \count($this->short) => 'with the most frequent value of the training rows',
            [] === $texts => \sprintf('with the %s of the training rows', $this->method),
            default => \sprintf('with the %s, or for categories the most frequent value, of the training rows', $this->method),
        };
    }

    public function toArray(): array
    {
        return ['step' => 'fill_missing', 'fills' => $this->fills, 'method' => $this->method, 'marks' => $this->marks, 'filled' => $this->filled, 'short' => $this->short, 'group' => $this->group, 'byGroup' => $this->byGroup, 'models' => array_map(static fn (Guess $g) => $g->toArray(), $this->models)];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{fills: array<array-key, float|int|string>, method: string, marks: list<string>, filled: int, short: list<string>, group: string, byGroup: array<array-key, array<array-key, float|int|string>>, models: array<array-key, array<string, mixed>>} $data */
        return new self($data['fills'], $data['method'], $data['marks'], $data['filled'], $data['short'], $data['group'], $data['byGroup'], array_map(Guess::fromArray(...), $data['models']));
    }

    public function frame(Frame $frame): Frame
    {
        $made = [];
        foreach ($this->fills as $name => $fill) {
            $name = (string) $name;
            $kind = $frame->kind($name);
            if (null === $kind) {
                continue;
            }
            if (isset($this->models[$name])) {
                throw new CannotExpress(\sprintf('%s is filled with what a regression expects, which is not written out yet.', $name));
            }
            $own = $frame->column($name);
            $value = static fn (float|int|string $v): float|string => match (true) {
                Kind::Date === $kind => (int) $v / DateColumn::DAY,
                Kind::Number === $kind => (float) $v,
                default => (string) $v,
            };
            $groups = isset($this->byGroup[$name]) && $frame->has($this->group) ? $this->byGroup[$name] : null;
            $by = null === $groups ? new Constant($value($fill)) : new Lookup(
                $frame->column($this->group),
                array_map($value, $groups),
                $value($fill),
                $value($groups[''] ?? $fill),
            );
            $made[$name] = [$kind, new When(new IsMissing($own), $by, $own)];
            if (\in_array($name, $this->marks, true)) {
                $made[self::markName($name)] = [Kind::YesNo, new When(new IsMissing($own), new Constant('yes'), new Constant('no'))];
            }
        }

        return $frame->with($made);
    }
}
