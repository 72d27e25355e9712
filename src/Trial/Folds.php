<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\FoldAnswers;

/** The folds of a study's open rows. */
final readonly class Folds
{
    /**
     * @param list<float>             $outcome of the open rows
     * @param list<list<list<int>>>   $parts   per repeat and fold the rows it validates
     * @param list<list<list<float>>> $nothing per repeat and fold what doing nothing answers
     * @param list<float>             $ratios  validation rows for one training row, of each fold
     * @param ?list<float>            $weights
     * @param ?int                    $units   groups or moments that the rows are of
     */
    public function __construct(
        private string $task,
        private array $outcome,
        public array $parts,
        private array $nothing,
        private array $ratios,
        private ?array $weights,
        public ?int $units,
    ) {
    }

    /** The same rows divided once only. */
    public function firstRound(): self
    {
        return new self(
            $this->task,
            $this->outcome,
            \array_slice($this->parts, 0, 1),
            \array_slice($this->nothing, 0, 1),
            $this->ratios,
            $this->weights,
            $this->units,
        );
    }

    /**
     * @param list<int> $rows
     *
     * @return ?list<float>
     */
    public function weightsOf(array $rows): ?array
    {
        return null === $this->weights ? null : array_map(fn (int $row): float => $this->weights[$row] ?? 1.0, $rows);
    }

    /** @param list<Answers> $answers of a trial, per repeat */
    public function answers(array $answers): FoldAnswers
    {
        return new FoldAnswers(
            $this->task,
            $this->outcome,
            $answers,
            $this->parts,
            $this->nothing,
            $this->ratios,
            $this->weights,
            $this->units,
        );
    }
}
