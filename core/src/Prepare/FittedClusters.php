<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Math\Lloyd;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Table;

/** The nearest of some centers as a category; missing where one of the numbers is. RowWise. */
final readonly class FittedClusters implements FittedStep
{
    /**
     * @param list<string>      $columns
     * @param list<float>       $means
     * @param list<float>       $sds
     * @param list<list<float>> $centers on the standardized scale
     */
    public function __construct(private array $columns, private array $means, private array $sds, private array $centers, private string $name, private float $silhouette)
    {
    }

    /**
     * @param list<list<float>> $columns
     * @param list<float>       $means
     * @param list<float>       $sds
     *
     * @return ?list<float> null when a value is missing
     */
    public static function point(array $columns, array $means, array $sds, int $row): ?array
    {
        $point = [];
        foreach ($columns as $j => $values) {
            $v = $values[$row];
            if ($v !== $v) {
                return null;
            }
            $point[] = ($v - $means[$j]) / $sds[$j];
        }

        return $point;
    }

    public function apply(Table $table): Table
    {
        foreach ($this->columns as $name) {
            if (!$table->has($name)) {
                return $table;
            }
        }
        $columns = array_map(static fn (string $n) => $table->number($n)->values, $this->columns);
        $codes = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $point = self::point($columns, $this->means, $this->sds, $row);
            $codes[] = null === $point ? -1 : Lloyd::nearest($point, $this->centers)[0];
        }

        return $table->with($this->name, new CodedColumn($codes, array_map(static fn (int $i) => 'group '.$i, range(1, \count($this->centers)))));
    }

    public function sentence(): string
    {
        return \sprintf('Makes %s: %d groups of rows alike in %s. They part with a silhouette of %s (0: not at all, 1: cleanly).', $this->name, \count($this->centers), Words::listed($this->columns), Words::number(round($this->silhouette, 2)));
    }

    public function asks(array $wanted): array
    {
        return Asked::before($wanted, [$this->name => $this->columns]);
    }

    public function toArray(): array
    {
        return ['step' => 'clusters', 'columns' => $this->columns, 'means' => $this->means, 'sds' => $this->sds, 'centers' => $this->centers, 'name' => $this->name, 'silhouette' => $this->silhouette];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{columns: list<string>, means: list<float|int>, sds: list<float|int>, centers: list<list<float|int>>, name: string, silhouette: float} $data */
        return new self($data['columns'], array_map(floatval(...), $data['means']), array_map(floatval(...), $data['sds']), array_map(static fn (array $c) => array_map(floatval(...), $c), $data['centers']), $data['name'], (float) $data['silhouette']);
    }
}
