<?php

declare(strict_types=1);

namespace App\Study;

use Symfony\Component\Validator\Constraints as Assert;

/** The column to predict, the class that counts as the event, and how rows are divided. */
final readonly class TargetRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'Choose the column to predict.')]
        public string $column = '',
        #[Assert\NotBlank(message: 'Choose the class that counts as the event.')]
        public string $event = '',
        public ?int $tableId = null,
        public ?float $sealedShare = null,
        public ?int $folds = null,
        public ?int $repeats = null,
        public ?int $seed = null,
    ) {
    }
}
