<?php

declare(strict_types=1);

namespace App\Preparation;

/** One step with its settings, what it does in a sentence, and its toll; without toll when switched off or impossible. */
final readonly class StepView
{
    /**
     * @param list<string>                                                                                                               $columns
     * @param array{rowsBefore: int, rowsAfter: int, columnsBefore: int, columnsAfter: int, missingBefore: int, missingAfter: int}|null $toll
     */
    public function __construct(
        public string $step,
        public array $columns,
        public ?string $method,
        public bool $mark,
        public bool $off,
        public string $note,
        public ?string $sentence,
        public ?array $toll,
        public ?string $problem,
    ) {
    }
}
