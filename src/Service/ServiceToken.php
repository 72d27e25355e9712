<?php

declare(strict_types=1);

namespace App\Service;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** What a caller shows. The token itself is shown once and not kept: only its hash, and its last four letters. */
#[ORM\Entity]
class ServiceToken
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE, nullable: true)]
    private ?\DateTimeImmutable $revokedAt = null;

    /**
     * @param string $hash      SHA-256 of the token, in hexadecimal
     * @param int    $perMinute calls
     * @param int    $perDay    calls
     * @param bool   $reasons   whether it may ask for reasons
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Service $service,
        #[ORM\Column(length: 120)]
        private string $caller,
        #[ORM\Column(length: 64, unique: true)]
        private string $hash,
        #[ORM\Column(length: 4)]
        private string $tail,
        #[ORM\Column(type: Types::DATE_IMMUTABLE, nullable: true)]
        private ?\DateTimeImmutable $expires,
        #[ORM\Column]
        private int $perMinute,
        #[ORM\Column]
        private int $perDay,
        #[ORM\Column]
        private bool $reasons,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function service(): Service
    {
        return $this->service;
    }

    public function caller(): string
    {
        return $this->caller;
    }

    public function hash(): string
    {
        return $this->hash;
    }

    public function tail(): string
    {
        return $this->tail;
    }

    public function expires(): ?\DateTimeImmutable
    {
        return $this->expires;
    }

    public function perMinute(): int
    {
        return $this->perMinute;
    }

    public function perDay(): int
    {
        return $this->perDay;
    }

    public function mayAskReasons(): bool
    {
        return $this->reasons;
    }

    public function revoke(): void
    {
        $this->revokedAt ??= new \DateTimeImmutable();
    }

    public function revokedAt(): ?\DateTimeImmutable
    {
        return $this->revokedAt;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
