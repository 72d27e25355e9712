<?php

declare(strict_types=1);

namespace App\Question;

use Dokimos\Core\Task\Task;
use Symfony\Component\Validator\Constraints as Assert;

/** The column to predict, what is predicted of it, and how rows are divided. */
final readonly class TargetRequest
{
    /**
     * @param ?string $event       the class that counts as the event; none for a number or several classes
     * @param ?string $way         chance, group, time or marker
     * @param ?string $by          the column that groups, dates or marks
     * @param ?string $validation  of a marker: its value on rows that validate
     * @param ?string $sealedValue of a marker: its value on sealed rows
     */
    public function __construct(
        #[Assert\NotBlank(message: 'Choose the column to predict.')]
        public string $column = '',
        public ?string $event = null,
        #[Assert\Choice([Task::TWO, Task::MORE, Task::NUMBER], message: 'What is predicted is one of two classes, several classes, number.')]
        public string $task = Task::TWO,
        public ?int $tableId = null,
        public ?float $sealedShare = null,
        public ?int $folds = null,
        public ?int $repeats = null,
        public ?int $seed = null,
        public ?string $way = null,
        public ?string $by = null,
        public ?string $validation = null,
        public ?string $sealedValue = null,
    ) {
    }
}
