<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Neighbors;

use Dokimos\Core\Learn\ShowsNeighbors;
use Dokimos\Core\Learn\TakesTime;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** The training rows, and how many of them answer. */
final class NeighborsModel implements TellsClasses, ShowsNeighbors, TakesTime
{
    private ?Nearest $nearest = null;

    /**
     * @param list<list<float>>                $values  per column, one a training row
     * @param list<int>                        $rows    of the table it was fitted on
     * @param list<array{k: int, loss: float}> $weighed
     * @param list<string>                     $notes
     */
    public function __construct(
        private readonly Space $space,
        private readonly array $values,
        private readonly Votes $votes,
        private readonly int $k,
        private readonly array $rows,
        private readonly array $weighed,
        private readonly array $notes,
    ) {
    }

    private function nearest(): Nearest
    {
        return $this->nearest ??= new Nearest($this->space, $this->values);
    }

    public function classes(): array
    {
        return $this->votes->classes ?? [];
    }

    public function predict(Table $table, ?array $rows = null): array
    {
        $shares = $this->shares($table, $rows);

        return $shares[\count($shares) - 1];
    }

    public function shares(Table $table, ?array $rows = null): array
    {
        $out = array_fill(0, \count($this->votes->overall), []);
        $asked = $this->space->of($table, $rows, true);
        $many = null === $rows ? $table->rows : \count($rows);
        for ($i = 0; $i < $many; ++$i) {
            foreach ($this->said(array_column($asked, $i)) as $class => $p) {
                $out[$class][] = $p;
            }
        }

        return array_values($out);
    }

    /**
     * @param list<float> $asked
     *
     * @return list<float>
     */
    private function said(array $asked): array
    {
        return [] === $asked ? $this->votes->overall : $this->votes->said(...$this->nearest()->of($asked, $this->k));
    }

    /**
     * Losses in all of several numbers of neighbors: of classes the log loss, of a number the squared error.
     *
     * @param list<int> $rows
     * @param list<int> $many rising
     *
     * @return array<int, float> by number of neighbors
     */
    public function losses(Task $task, array $rows, array $many): array
    {
        $losses = array_fill_keys($many, 0.0);
        $asked = $this->space->of($task->table, $rows, true);
        foreach ($rows as $i => $row) {
            $one = array_column($asked, $i);
            [$near, $distances] = [] === $one ? [[], []] : $this->nearest()->of($one, $many[\count($many) - 1]);
            $y = $task->outcome[$row];
            foreach ($many as $k) {
                $said = $this->votes->said(\array_slice($near, 0, $k), \array_slice($distances, 0, $k));
                $losses[$k] += ($task->weights[$row] ?? 1.0) * (null === $task->classes ? ($said[0] - $y) ** 2 : -log($said[(int) $y]));
            }
        }

        return $losses;
    }

    public function asked(): int
    {
        return $this->k;
    }

    public function neighbors(Table $prepared, int $row, int $many): array
    {
        $asked = array_column($this->space->of($prepared, [$row], true), 0);
        if ([] === $asked) {
            return [];
        }
        [$near, $distances] = $this->nearest()->of($asked, $many);

        return array_map(
            fn (int $i, float $d): array => ['row' => $this->rows[$i], 'distance' => $d, 'outcome' => $this->votes->outcome[$i]],
            $near,
            $distances,
        );
    }

    public function cost(): int
    {
        return \count($this->rows) * \count($this->values);
    }

    public function weighed(): array
    {
        return $this->weighed;
    }

    public function columns(): array
    {
        return $this->space->columns;
    }

    public function size(): string
    {
        return \sprintf('%s of %s rows', number_format($this->k), number_format(\count($this->rows)));
    }

    public function notes(): array
    {
        return $this->notes;
    }

    public function toArray(): array
    {
        return [
            'learner' => 'neighbors',
            'space' => $this->space->toArray(),
            // As bytes: so many numbers would take thrice as long and as much as text.
            'values' => array_map(static fn (array $v): string => base64_encode(pack('e*', ...$v)), $this->values),
            'votes' => $this->votes->toArray(),
            'k' => $this->k,
            'rows' => base64_encode(pack('V*', ...$this->rows)),
            'weighed' => $this->weighed,
            'notes' => $this->notes,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /**
         * @var array{
         *     space: array<string, mixed>, values: list<string>, votes: array<string, mixed>, k: int, rows: string,
         *     weighed: list<array{k: int, loss: float|int}>, notes: list<string>,
         * } $data
         */
        $values = [];
        foreach ($data['values'] as $bytes) {
            /** @var list<float> $own */
            $own = array_values(unpack('e*', (string) base64_decode($bytes, true)) ?: []);
            $values[] = $own;
        }
        /** @var list<int> $rows */
        $rows = array_values(unpack('V*', (string) base64_decode($data['rows'], true)) ?: []);

        return new self(
            Space::fromArray($data['space']),
            $values,
            Votes::fromArray($data['votes']),
            $data['k'],
            $rows,
            array_map(static fn (array $w): array => ['k' => $w['k'], 'loss' => (float) $w['loss']], $data['weighed']),
            $data['notes'],
        );
    }
}
