<?php

declare(strict_types=1);

namespace App\Source;

use App\Account\User;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** A file on its way in, in pieces. */
#[ORM\Entity]
class Upload
{
    public const LARGEST = 2 << 30;
    public const PIECE = 8 << 20;

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::BIGINT)]
    private int $received = 0;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private User $user,
        #[ORM\Column(length: 255)]
        private string $fileName,
        #[ORM\Column(type: Types::BIGINT)]
        private int $size,
        /** Set when it stands for a database on a server rather than for a file. */
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(onDelete: 'CASCADE')]
        private ?DatabaseConnection $connection = null,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function user(): User
    {
        return $this->user;
    }

    public function fileName(): string
    {
        return $this->fileName;
    }

    public function size(): int
    {
        return $this->size;
    }

    public function connection(): ?DatabaseConnection
    {
        return $this->connection;
    }

    public function received(): int
    {
        return $this->received;
    }

    public function receive(int $bytes): void
    {
        $this->received += $bytes;
    }

    public function isComplete(): bool
    {
        return $this->received === $this->size;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
