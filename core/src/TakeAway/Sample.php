<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/**
 * Records that a taken-away model is proven on: real ones, and the same with each column missing, with values that training never saw, far
 * beyond what it saw, and at and next to the thresholds of trees.
 */
final readonly class Sample
{
    private const THRESHOLDS = 60;

    /** @param array<string, int> $made how many records of each sort */
    private function __construct(public Table $records, public array $made)
    {
    }

    /** @param Table $real columns that the model asks for, as ScoringModel::select() gives them; at least one record */
    public static function of(Program $program, Table $real): self
    {
        $rows = [];
        for ($row = 0; $row < $real->rows; ++$row) {
            $rows[] = self::cells($real, $row);
        }
        $made = [
            'real' => \count($rows),
            'with a missing value' => 0,
            'with a value never seen' => 0,
            'at a threshold or a step beside it' => 0,
        ];
        $first = $rows[0] ?? throw new \LogicException('There is no record to prove it on.');
        foreach ($program->inputs as $name => $kind) {
            $base = $rows[$made['with a missing value'] % \count($rows)];
            $rows[] = [$name => null] + $base;
            ++$made['with a missing value'];
            foreach (self::unseen($kind) as $value) {
                $rows[] = [$name => $value] + $base;
                ++$made['with a value never seen'];
            }
        }
        $rows[] = array_map(static fn (): null => null, $first);
        ++$made['with a missing value'];
        foreach (self::thresholds($program) as [$name, $at]) {
            foreach ([$at, self::next($at)] as $value) {
                $rows[] = [$name => $value] + $rows[$made['at a threshold or a step beside it'] % $real->rows];
                ++$made['at a threshold or a step beside it'];
            }
        }
        $columns = [];
        foreach ($program->inputs as $name => $kind) {
            $columns[$name] = self::column($kind, array_column($rows, $name));
        }

        return new self(Table::of($columns, \count($rows)), $made);
    }

    /** @return list<float|string> */
    private static function unseen(Kind $kind): array
    {
        return match ($kind) {
            Kind::Number => [-1e9, 1e9],
            Kind::Date => [0.0],
            Kind::YesNo => [],
            default => ["it's \"new\""],
        };
    }

    /** @return array<array-key, float|string|null> */
    private static function cells(Table $table, int $row): array
    {
        $out = [];
        foreach ($table->columns() as $name => $column) {
            $out[$name] = self::cell($column, $row);
        }

        return $out;
    }

    /** A number, a date as days since 1970, or a text; null = missing. */
    public static function cell(Column $column, int $row): float|string|null
    {
        return match (true) {
            $column->isMissing($row) => null,
            $column instanceof NumberColumn => $column->values[$row],
            $column instanceof DateColumn => $column->seconds[$row] / DateColumn::DAY,
            default => $column->text($row),
        };
    }

    /** @return list<array{string, float}> of columns of the record that trees ask about */
    private static function thresholds(Program $program): array
    {
        $out = [];
        foreach ($program->layers as $layer) {
            foreach ($layer as $expression) {
                foreach (self::trees($expression) as $trees) {
                    foreach ($trees->trees as $tree) {
                        foreach ($tree as $node) {
                            // A filled column still bears the name it came with.
                            $name = $node->column;
                            if (null !== $name
                                && null !== $node->threshold
                                && is_finite($node->threshold)
                                && Kind::Number === ($program->inputs[$name] ?? null)) {
                                $out[$name.' '.$node->threshold] = [$name, $node->threshold];
                            }
                        }
                    }
                }
            }
        }
        $out = array_values($out);
        $step = max(1, intdiv(\count($out), self::THRESHOLDS));

        return array_values(array_filter($out, static fn (int $i): bool => 0 === $i % $step, \ARRAY_FILTER_USE_KEY));
    }

    /** @return iterable<Trees> */
    private static function trees(Expression $expression): iterable
    {
        if ($expression instanceof Trees) {
            yield $expression;
        }
        foreach ($expression->parts() as $part) {
            yield from self::trees($part);
        }
    }

    /** The next larger double. */
    private static function next(float $v): float
    {
        if (0.0 === $v) {
            return 5e-324;
        }
        $bits = unpack('q', pack('d', $v));
        $next = unpack('d', pack('q', (\is_array($bits) && \is_int($bits[1]) ? $bits[1] : 0) + ($v > 0.0 ? 1 : -1)));

        return \is_array($next) && \is_float($next[1]) ? $next[1] : $v;
    }

    /** @param array<float|string|null> $cells */
    private static function column(Kind $kind, array $cells): Column
    {
        $cells = array_values($cells);

        return match ($kind) {
            Kind::Number => new NumberColumn(array_map(static fn (float|string|null $v): float => null === $v ? \NAN : (float) $v, $cells)),
            Kind::Date => new DateColumn(array_map(
                static fn (float|string|null $v): int => null === $v ? DateColumn::MISSING : (int) round((float) $v * DateColumn::DAY),
                $cells,
            )),
            Kind::Text, Kind::Identifier => new TextColumn(
                array_map(static fn (float|string|null $v): ?string => null === $v ? null : (string) $v, $cells),
                $kind,
            ),
            default => CodedColumn::fromCells(
                array_map(static fn (float|string|null $v): ?string => null === $v ? null : (string) $v, $cells),
                $kind,
            ),
        };
    }

    /**
     * @return array<array-key, float|string|null> one record, as a program reads it: dates as days since 1970
     */
    public function record(int $row): array
    {
        return self::cells($this->records, $row);
    }
}
