<?php

declare(strict_types=1);

namespace App\Source;

use Symfony\Component\Validator\Constraints as Assert;

/** A database to read from. */
final readonly class ConnectionRequest
{
    public function __construct(
        #[Assert\NotBlank(message: 'Choose the server.')]
        public string $host = '',
        #[Assert\NotBlank(message: 'The database needs its name.', normalizer: 'trim'), Assert\Length(max: 120, maxMessage: 'The name of a database has at most 120 letters.')]
        public string $database = '',
        #[Assert\NotBlank(message: 'Say as whom to read.', normalizer: 'trim'), Assert\Length(max: 120, maxMessage: 'A login has at most 120 letters.')]
        public string $login = '',
        #[\SensitiveParameter]
        #[Assert\Length(max: 1000, maxMessage: 'A password has at most 1,000 letters.')]
        public string $password = '',
    ) {
    }
}
