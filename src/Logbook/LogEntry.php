<?php

declare(strict_types=1);

namespace App\Logbook;

use App\Account\User;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** One thing that was done in a study, as a sentence with figures. */
#[ORM\Entity]
#[ORM\Index(columns: ['study_id', 'id'])]
class LogEntry
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $at;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
        private ?User $user,
        #[ORM\Column(length: 20)]
        private string $station,
        #[ORM\Column(length: 1000)]
        private string $sentence,
    ) {
        $this->at = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function user(): ?User
    {
        return $this->user;
    }

    public function station(): string
    {
        return $this->station;
    }

    public function sentence(): string
    {
        return $this->sentence;
    }

    public function at(): \DateTimeImmutable
    {
        return $this->at;
    }
}
