<?php

declare(strict_types=1);

namespace App\TakeAway;

use Symfony\Component\Validator\Constraints as Assert;

/** Takes a model away. */
final readonly class TakeAwayRequest
{
    /** @param ?int $connectionId a PostgreSQL server that runs the form for it before it is handed out */
    public function __construct(
        #[Assert\Choice(choices: ['sql-postgresql', 'sql-sqlite', 'onnx', 'json'], message: 'Choose SQL, ONNX or JSON.')]
        public string $form = '',
        public ?int $connectionId = null,
    ) {
    }
}
