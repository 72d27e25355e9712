<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Weighted sums of columns; missing where one of them is. RowWise. */
final readonly class FittedComponents implements FittedStep, AsFrame
{
    /**
     * @param list<string>      $columns
     * @param list<float>       $means   taken off each column
     * @param list<float>       $sds     that each is divided by
     * @param list<list<float>> $vectors weights of the columns, one list a component
     * @param list<float>       $shares  of the variation, of all components
     */
    public function __construct(
        public array $columns,
        private array $means,
        private array $sds,
        public array $vectors,
        public array $shares,
        private bool $keep,
        public string $prefix,
    ) {
    }

    public function apply(Table $table): Table
    {
        foreach ($this->columns as $name) {
            if (!$table->has($name)) {
                return $table;
            }
        }
        $columns = array_map(static fn (string $n) => $table->number($n)->values, $this->columns);
        foreach ($this->vectors as $i => $weights) {
            $out = $table->rows > 0 ? array_fill(0, $table->rows, 0.0) : [];
            foreach ($weights as $j => $w) {
                [$mean, $sd] = [$this->means[$j], $this->sds[$j]];
                foreach ($columns[$j] as $row => $v) {
                    $out[$row] += $w * ($v - $mean) / $sd;
                }
            }
            $table = $table->with($this->prefix.'_'.($i + 1), new NumberColumn(array_values($out)));
        }

        return $this->keep ? $table : $table->without($this->columns);
    }

    public function frame(Frame $frame): Frame
    {
        foreach ($this->columns as $name) {
            if (!$frame->has($name)) {
                return $frame;
            }
        }
        $made = [];
        foreach ($this->vectors as $i => $weights) {
            $terms = [];
            foreach ($weights as $j => $w) {
                $from = Operation::of(Operator::Less, $frame->column($this->columns[$j]), new Constant($this->means[$j]));
                $terms[] = Operation::of(
                    Operator::Over,
                    Operation::of(Operator::Times, new Constant($w), $from),
                    new Constant($this->sds[$j]),
                );
            }
            $made[$this->prefix.'_'.($i + 1)] = [Kind::Number, Operation::sum($terms)];
        }
        $frame = $frame->with($made);

        return $this->keep ? $frame : $frame->without($this->columns);
    }

    public function sentence(): string
    {
        $first = [];
        foreach ($this->vectors[0] ?? [] as $j => $w) {
            $first[$this->columns[$j]] = $w;
        }
        uasort($first, static fn (float $a, float $b) => abs($b) <=> abs($a));
        $strong = array_map(
            static fn (string|int $n, float $w) => \sprintf('%s %s', $n, Words::number($w)),
            \array_slice(array_keys($first), 0, 3),
            \array_slice($first, 0, 3),
        );

        return \sprintf(
            'Makes %s of %d columns, which hold %s of their variation; the first is mostly %s.',
            Words::count(\count($this->vectors), $this->prefix),
            \count($this->columns),
            Words::share(array_sum(\array_slice($this->shares, 0, \count($this->vectors)))),
            Words::listed($strong),
        );
    }

    public function asks(array $wanted): array
    {
        $made = [];
        foreach ($this->vectors as $i => $_) {
            $made[$this->prefix.'_'.($i + 1)] = $this->columns;
        }

        return Asked::before($wanted, $made);
    }

    public function toArray(): array
    {
        return [
            'step' => 'components',
            'columns' => $this->columns,
            'means' => $this->means,
            'sds' => $this->sds,
            'vectors' => $this->vectors,
            'shares' => $this->shares,
            'keep' => $this->keep,
            'prefix' => $this->prefix,
        ];
    }

    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     columns: list<string>, means: list<float|int>, sds: list<float|int>, vectors: list<list<float|int>>,
         *     shares: list<float|int>, keep: bool, prefix: string,
         * } $data
         */
        return new self(
            $data['columns'],
            array_map(floatval(...), $data['means']),
            array_map(floatval(...), $data['sds']),
            array_map(static fn (array $v) => array_map(floatval(...), $v), $data['vectors']),
            array_map(floatval(...), $data['shares']),
            $data['keep'],
            $data['prefix'],
        );
    }
}
