<?php

declare(strict_types=1);

namespace App\Trial;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** What a trial fitted, apart from the trial: a list of trials must not read forests. */
#[ORM\Entity]
class FittedModel
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @param array<string, mixed> $document */
    public function __construct(
        #[ORM\Column(type: Types::JSON)]
        private array $document,
    ) {
    }

    public function id(): ?int
    {
        return $this->id;
    }

    /** @return array<string, mixed> */
    public function document(): array
    {
        return $this->document;
    }
}
