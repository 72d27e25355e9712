<?php

declare(strict_types=1);

namespace App\Study;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** One matter of the business: its name, what is asked, and when it was begun; its people are its members. */
#[ORM\Entity]
class Study
{
    /** How long a deleted study is kept. */
    public const DAYS_KEPT = 30;

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Version, ORM\Column(type: 'integer')]
    private int $version = 1;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE, nullable: true)]
    private ?\DateTimeImmutable $deletedAt = null;

    /** Days that what was scored stays; 0 = for good. */
    #[ORM\Column(options: ['default' => 0])]
    private int $keepDays = 0;

    public function __construct(
        #[ORM\Column(length: 120)]
        private string $name,
        #[ORM\Column(length: 300)]
        private string $question,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function version(): int
    {
        return $this->version;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function question(): string
    {
        return $this->question;
    }

    public function keepDays(): int
    {
        return $this->keepDays;
    }

    public function keepFor(int $days): void
    {
        $this->keepDays = $days;
    }

    public function rename(string $name, string $question): void
    {
        $this->name = $name;
        $this->question = $question;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }

    public function delete(): void
    {
        $this->deletedAt = new \DateTimeImmutable();
    }

    public function bringBack(): void
    {
        $this->deletedAt = null;
    }

    public function deletedAt(): ?\DateTimeImmutable
    {
        return $this->deletedAt;
    }

    public function isDeleted(): bool
    {
        return null !== $this->deletedAt;
    }
}
