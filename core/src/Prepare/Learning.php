<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** A table and what has been learned on it, step by step. Immutable: each step gives the next. */
final readonly class Learning
{
    public Prepared $learned;

    /**
     * @param list<int>        $training rows that may be learned from
     * @param ?list<float>     $event
     * @param list<FittedStep> $steps
     * @param list<Toll>       $tolls
     */
    public function __construct(Table|Prepared $table, private array $training, private ?array $event = null, public array $steps = [], public array $tolls = [])
    {
        $this->learned = $table instanceof Table ? new Prepared($table) : $table;
    }

    /** @return list<int> the training rows that are left */
    public function rows(): array
    {
        return $this->learned->among($this->training);
    }

    /** @throws CannotPrepare */
    public function after(Step $step): self
    {
        $before = $this->learned;
        $fitted = $step->fit(new Lesson($before->table, $this->rows(), $this->event, $before->out));
        $after = $before->after($fitted);
        if ($fitted instanceof OutOfFold) {
            $after = new Prepared($fitted->applyWhereLearned($before->table), $after->out);
        }
        if ($fitted instanceof TrainingOnly) {
            $after = new Prepared($after->table, $after->out + $fitted->outOfTraining());
        }

        return new self($after, $this->training, $this->event, [...$this->steps, $fitted], [...$this->tolls, Toll::between($before, $after)]);
    }
}
