<?php

declare(strict_types=1);

namespace App\TakeAway;

use Symfony\Component\Validator\Constraints as Assert;

/** Takes a model away. */
final readonly class TakeAwayRequest
{
    /** @param ?int $connectionId a PostgreSQL server that runs the form for it before it is handed out */
    public function __construct(
        #[Assert\Choice(
            choices: ['sql-postgresql', 'sql-sqlite', 'onnx', 'json', 'card'],
            message: 'Choose SQL, ONNX, JSON or a rule card.',
        )]
        public string $form = '',
        public ?int $connectionId = null,
    ) {
    }
}
