<?php

declare(strict_types=1);

namespace App\Account;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** Lets one person make an account, for a week. Only a hash of the code is kept. */
#[ORM\Entity]
#[ORM\Table(name: 'account_invitation')]
class Invitation
{
    private const LIFETIME = '+7 days';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $expiresAt;

    #[ORM\Column]
    private bool $used = false;

    private function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private User $by,
        #[ORM\Column(length: 64, unique: true)]
        private string $codeHash,
    ) {
        $this->expiresAt = new \DateTimeImmutable(self::LIFETIME);
    }

    /** @return array{self, string} the invitation and its code, which is shown once */
    public static function make(User $by): array
    {
        $code = bin2hex(random_bytes(16));

        return [new self($by, self::hash($code)), $code];
    }

    public static function hash(string $code): string
    {
        return hash('sha256', $code);
    }

    public function id(): ?int
    {
        return $this->id;
    }

    public function by(): User
    {
        return $this->by;
    }

    public function codeHash(): string
    {
        return $this->codeHash;
    }

    public function isOpen(): bool
    {
        return !$this->used && $this->expiresAt > new \DateTimeImmutable();
    }

    public function expiresAt(): \DateTimeImmutable
    {
        return $this->expiresAt;
    }
}
