<?php

declare(strict_types=1);

namespace App\Source;

use App\Account\User;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** Where one person may read from: a database on a server the operator lists. The password is kept encrypted. */
#[ORM\Entity]
class DatabaseConnection
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /** @param string $sealed the password, encrypted with a key that does not lie in this store */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private User $user,
        #[ORM\Column(length: 120)]
        private string $host,
        #[ORM\Column(name: 'database_name', length: 120)]
        private string $database,
        #[ORM\Column(length: 120)]
        private string $login,
        #[ORM\Column(type: Types::TEXT)]
        private string $sealed,
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

    /** As the operator lists it, "name:port". */
    public function host(): string
    {
        return $this->host;
    }

    public function database(): string
    {
        return $this->database;
    }

    public function login(): string
    {
        return $this->login;
    }

    public function sealAnew(string $sealed): void
    {
        $this->sealed = $sealed;
    }

    public function sealed(): string
    {
        return $this->sealed;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
