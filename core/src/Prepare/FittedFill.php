<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Fills missing cells with values learned from training rows. RowWise. */
final readonly class FittedFill implements FittedStep
{
    /**
     * @param array<string, float|int|string> $fills  column => value (dates in seconds)
     * @param int                             $filled missing cells in the table it was learned on
     */
    public function __construct(private array $fills, private string $method, private bool $mark, private int $filled)
    {
    }

    /** The name of the yes/no column that tells where a column was missing. */
    public static function markName(string $column): string
    {
        return $column.'_was_missing';
    }

    public function apply(Table $table): Table
    {
        foreach ($this->fills as $name => $fill) {
            // Names made of digits become integers as array keys.
            $name = (string) $name;
            if (!$table->has($name)) {
                throw new CannotPrepare(\sprintf('Column %s is needed to fill its missing cells and is not in this table.', $name));
            }
            $column = $table->column($name);
            $marks = [];
            if ($column instanceof NumberColumn) {
                $values = [];
                foreach ($column->values as $v) {
                    $gap = is_nan($v);
                    $marks[] = $gap ? 0 : 1;
                    $values[] = $gap ? (float) $fill : $v;
                }
                $table = $table->with($name, new NumberColumn($values));
            } elseif ($column instanceof DateColumn) {
                $seconds = [];
                foreach ($column->seconds as $s) {
                    $gap = DateColumn::MISSING === $s;
                    $marks[] = $gap ? 0 : 1;
                    $seconds[] = $gap ? (int) $fill : $s;
                }
                $table = $table->with($name, new DateColumn($seconds));
            } elseif ($column instanceof CodedColumn) {
                $levels = $column->levels;
                $code = array_search((string) $fill, $levels, true);
                if (false === $code) {
                    $code = \count($levels);
                    $levels[] = (string) $fill;
                }
                $codes = [];
                foreach ($column->codes as $c) {
                    $marks[] = $c < 0 ? 0 : 1;
                    $codes[] = $c < 0 ? $code : $c;
                }
                $table = $table->with($name, new CodedColumn($codes, $levels, $column->kind()));
            } else {
                throw new CannotPrepare(\sprintf('Column %s is %s in this table and cannot be filled as it was in training.', $name, $column->kind()->value));
            }
            if ($this->mark) {
                $table = $table->with(self::markName($name), new CodedColumn($marks, ['yes', 'no'], Kind::YesNo));
            }
        }

        return $table;
    }

    public function needs(): array
    {
        return array_map(strval(...), array_keys($this->fills));
    }

    public function sentence(): string
    {
        if ([] === $this->fills) {
            return 'Fills nothing: no column has missing cells.';
        }
        $what = array_map(fn (string $name) => \sprintf('%s (%s)', $name, \is_string($this->fills[$name]) ? $this->fills[$name] : (\is_int($this->fills[$name]) ? DateColumn::write($this->fills[$name]) : Words::number($this->fills[$name]))), $this->needs());

        return \sprintf('Fills %s missing %s with the %s of the training rows: %s.%s', number_format($this->filled), 1 === $this->filled ? 'cell' : 'cells', $this->named(), Words::listed($what), $this->mark ? ' A yes/no column keeps where.' : '');
    }

    private function named(): string
    {
        $texts = array_filter($this->fills, is_string(...));

        return match (true) {
            FillMissing::MOST_FREQUENT === $this->method || \count($texts) === \count($this->fills) => 'most frequent value',
            [] === $texts => 'median',
            default => 'median, or for categories the most frequent value,',
        };
    }

    public function toArray(): array
    {
        return ['step' => 'fill_missing', 'fills' => $this->fills, 'method' => $this->method, 'mark' => $this->mark, 'filled' => $this->filled];
    }
}
