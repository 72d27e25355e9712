<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/** Records whose outcome is known, with what a model answered for them. */
final readonly class Judged
{
    /**
     * @param list<float> $outcome per record: a number, 0 or 1, or the place of the class; NAN = not known yet
     * @param Answers     $answers of the same records; NAN = no answer
     */
    public function __construct(public string $task, public array $outcome, public Answers $answers)
    {
    }

    /** @param list<int> $rows */
    public function some(array $rows): self
    {
        return new self($this->task, array_map(fn (int $row): float => $this->outcome[$row], $rows), $this->answers->take($rows));
    }

    public function known(): self
    {
        $rows = [];
        foreach ($this->outcome as $row => $y) {
            if (is_finite($y) && $this->answers->isKnown($row)) {
                $rows[] = $row;
            }
        }

        return $this->some($rows);
    }

    public function rows(): int
    {
        return \count($this->outcome);
    }

    public function sample(): ?Sample
    {
        return [] === $this->outcome ? null : new Sample($this->outcome, $this->answers);
    }

    /** What came less what was promised, of an event or of one of the classes. */
    public function inTheLarge(int $class = 1): InTheLarge
    {
        if (Task::TWO === $this->task) {
            return InTheLarge::of($this->outcome, $this->answers->values);
        }
        $event = $chance = [];
        foreach ($this->outcome as $row => $y) {
            $event[] = (int) $y === $class ? 1.0 : 0.0;
            $chance[] = $this->answers->ofClass($row, $class);
        }

        return InTheLarge::of($event, $chance);
    }
}
