<?php

declare(strict_types=1);

namespace Dokimos\Core\Task;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Table\Table;

/** What a learner is given: a prepared table, the inputs, the outcome per row, and the rows it may learn from. */
final readonly class Task
{
    /** What is predicted: a number, an event (the second of two classes), or one of several classes. */
    public const NUMBER = 'number';
    public const TWO = 'two classes';
    public const MORE = 'several classes';

    /**
     * @param list<string>  $inputs
     * @param list<float>   $outcome one per row of the table: a number, or the place of the class; NAN = unknown
     * @param list<int>     $rows    training rows; those with an unknown outcome are left out
     * @param ?list<float>  $weights one per row of the table
     * @param ?list<string> $classes the classes in order, of two the event is the second; null when a number is predicted
     * @param ?Apart        $apart   which rows belong together when some are kept back; null = none
     *
     * @throws \LengthException events and weights need one value per row
     */
    public function __construct(public Table $table, public array $inputs, public array $outcome, public array $rows, public ?array $weights = null, public ?array $classes = ['no', 'yes'], public ?Apart $apart = null)
    {
        foreach ([$outcome, $weights ?? $outcome] as $list) {
            if (\count($list) !== $table->rows) {
                throw new \LengthException('Events and weights need one value per row.');
            }
        }
    }

    /**
     * The same question put to other rows, with other inputs or weights.
     *
     * @param list<int>     $rows
     * @param ?list<string> $inputs  the same when null
     * @param ?list<float>  $weights the same when null
     */
    public function on(array $rows, ?array $inputs = null, ?array $weights = null): self
    {
        return new self($this->table, $inputs ?? $this->inputs, $this->outcome, $rows, $weights ?? $this->weights, $this->classes, $this->apart);
    }

    /** @return list<int> training rows with a known outcome and a positive weight */
    public function usable(): array
    {
        $rows = [];
        foreach ($this->rows as $row) {
            if (is_finite($this->outcome[$row]) && (null === $this->weights || $this->weights[$row] > 0.0)) {
                $rows[] = $row;
            }
        }

        return $rows;
    }

    public function kind(): string
    {
        return match (true) {
            null === $this->classes => self::NUMBER,
            2 === \count($this->classes) => self::TWO,
            default => self::MORE,
        };
    }

    /**
     * How a regression reads the inputs.
     *
     * @param list<int> $rows training rows
     */
    public function coding(array $rows, Reading $reading = new Reading()): Coding
    {
        $targets = [];
        if (null === $this->classes) {
            $targets['mean outcome'] = $this->outcome;
        } elseif (2 === \count($this->classes)) {
            $targets['share of the event'] = $this->outcome;
        }
        foreach ([] === $targets ? \array_slice($this->classes ?? [], 1) : [] as $k => $class) {
            $targets['share of '.$class] = array_map(static fn (float $c): float => $c === $k + 1.0 ? 1.0 : 0.0, $this->outcome);
        }

        return Coding::learn($this->table, $this->inputs, $rows, $targets, $this->weights, $reading);
    }
}
