<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Prepare\FittedPreparation;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Random;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;

/** The rows that are not sealed, what is asked of them, and how they are prepared: whatever learner is tried, and on whichever of them. */
final readonly class TrialData
{
    /**
     * @param Table         $table   the unsealed rows, before preparation, with the columns the trial may use
     * @param list<string>  $inputs  columns of the raw table that may serve; made columns come along
     * @param list<float>   $outcome per row of the table: a number, or the place of the class; NAN = unknown
     * @param ?list<string> $classes null when a number is predicted
     * @param ?list<float>  $weights per row of the table: how much it counts while learning and in the figure; those of 0 not at all
     * @param ?Apart        $apart   which rows belong together when a learner keeps some back
     * @param ?ColumnChoice $choice  which prepared columns may serve; null = all
     */
    public function __construct(
        public Table $table,
        private array $inputs,
        public array $outcome,
        private Preparation $preparation,
        public ?array $classes = ['no', 'yes'],
        public ?array $weights = null,
        public ?Apart $apart = null,
        private ?ColumnChoice $choice = null,
    ) {
    }

    /**
     * The same rows with another outcome, as a test of what chance does asks for.
     *
     * @param list<float> $outcome
     */
    public function with(array $outcome): self
    {
        return new self(
            $this->table,
            $this->inputs,
            $outcome,
            $this->preparation,
            $this->classes,
            $this->weights,
            $this->apart,
            $this->choice,
        );
    }

    /** Numbers of an answer. */
    public function width(): int
    {
        return Answers::widthOf($this->classes);
    }

    /** @return list<int> rows whose outcome is known */
    public function known(): array
    {
        return array_keys(array_filter($this->outcome, static fn (float $e) => !is_nan($e)));
    }

    /**
     * The preparation fitted on some rows, and the table prepared by it.
     *
     * @param list<int> $training
     * @param list<int> $validation rows that are kept from it
     *
     * @throws CannotFit when the steps leave no row to learn from
     */
    public function prepared(array $training, array $validation = []): PreparedFold
    {
        $fitted = $this->preparation->fit(
            $this->table,
            $training,
            null !== $this->classes && 2 === \count($this->classes) ? $this->outcome : null,
        );
        if ([] === $fitted->rows) {
            throw new CannotFit('The steps of the preparation leave no row to learn from.');
        }
        $table = $fitted->learned->table ?? $this->table;

        return new PreparedFold(
            $this,
            $fitted,
            new Task($table, $this->usable($table, $fitted), $this->outcome, $fitted->rows, $this->weights, $this->classes, $this->apart),
            $training,
            $validation,
        );
    }

    /**
     * The inputs that preparation left, and the columns it made of them. What is made of a key alone, such as a renamed one, is a key still.
     *
     * @return list<string>
     */
    private function usable(Table $prepared, FittedPreparation $fitted): array
    {
        $always = $fitted->asks([]);

        return array_values(array_filter($prepared->names(), function (string $name) use ($fitted, $always): bool {
            if (false === $this->choice?->admits($name)) {
                return false;
            }
            if ($this->table->has($name)) {
                return \in_array($name, $this->inputs, true);
            }
            $made = array_diff($fitted->asks([$name]), $always);

            return [] === $made || [] !== array_intersect($made, $this->inputs);
        }));
    }

    /**
     * Where a trial learns from a part of the rows: which, drawn by seed from all alike; in their order.
     *
     * @param list<int> $rows
     * @param ?int      $part so many at most; null = all
     *
     * @return list<int>
     */
    public function some(array $rows, ?int $part): array
    {
        if (null === $part || \count($rows) <= $part) {
            return $rows;
        }
        $random = Random::stream(2026, 'a part of the rows');
        $left = \count($rows);
        $wanted = $part;
        $drawn = [];
        foreach ($rows as $row) {
            // Each with the chance that what is still wanted has among what is left: so many exactly, and in order.
            if ($random->getInt(1, $left--) <= $wanted) {
                $drawn[] = $row;
                --$wanted;
            }
        }

        return $drawn;
    }

    /**
     * @template T
     *
     * @param list<T>               $values per row of the table
     * @param array<array-key, int> $rows
     *
     * @return list<T> those of the rows asked for, in their order
     */
    public static function at(array $values, array $rows): array
    {
        $out = [];
        foreach ($rows as $row) {
            $out[] = $values[$row];
        }

        return $out;
    }
}
