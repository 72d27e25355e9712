<?php

declare(strict_types=1);

namespace App\Account;

use Doctrine\ORM\Mapping as ORM;
use Symfony\Component\Security\Core\User\EquatableInterface;
use Symfony\Component\Security\Core\User\PasswordAuthenticatedUserInterface;
use Symfony\Component\Security\Core\User\UserInterface;

/** Somebody who can sign in. */
#[ORM\Entity]
#[ORM\Table(name: 'account_user')]
class User implements UserInterface, PasswordAuthenticatedUserInterface, EquatableInterface
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column]
    private bool $disabled = false;

    #[ORM\Column(length: 255)]
    private string $password = '';

    /** Raised by signing out; cookies that keep somebody signed in name it. */
    #[ORM\Column(options: ['default' => 0])]
    private int $stays = 0;

    /** @var array{secret: string, on: bool, last: int, codes: list<string>}|null sealed secret of a second step, the last half minute used, hashes of spare codes */
    #[ORM\Column(type: 'json', nullable: true)]
    private ?array $secondFactor = null;

    #[ORM\Column(type: 'datetime_immutable')]
    private \DateTimeImmutable $createdAt;

    public function __construct(
        #[ORM\Column(length: 60, unique: true)]
        private string $login,
        #[ORM\Column(length: 120)]
        private string $name,
        #[ORM\Column]
        private bool $owner = false,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function login(): string
    {
        return $this->login;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function isOwner(): bool
    {
        return $this->owner;
    }

    /** Two letters for small round marks. */
    public function initials(): string
    {
        $words = preg_split('/\s+/', trim($this->name)) ?: [];
        $letters = array_map(static fn (string $w) => mb_strtoupper(mb_substr($w, 0, 1)), [$words[0] ?? '?', ...(\count($words) > 1 ? [$words[\count($words) - 1]] : [])]);

        return implode('', $letters);
    }

    public function isDisabled(): bool
    {
        return $this->disabled;
    }

    public function disable(): void
    {
        $this->disabled = true;
    }

    /** @return array{secret: string, on: bool, last: int, codes: list<string>}|null */
    public function secondFactor(): ?array
    {
        return $this->secondFactor;
    }

    public function hasSecondFactor(): bool
    {
        return true === ($this->secondFactor['on'] ?? false);
    }

    /** @param array{secret: string, on: bool, last: int, codes: list<string>}|null $kept */
    public function keepSecondFactor(?array $kept): void
    {
        $this->secondFactor = $kept;
    }

    public function stays(): int
    {
        return $this->stays;
    }

    public function endStays(): void
    {
        ++$this->stays;
    }

    /** Whether a session that was begun may go on: not of an account that was disabled, or given another password, since then. */
    public function isEqualTo(UserInterface $user): bool
    {
        return $user instanceof self && !$user->disabled && $user->login === $this->login && $user->password === $this->password && $user->owner === $this->owner;
    }

    public function changePassword(string $hash): void
    {
        $this->password = $hash;
    }

    public function getPassword(): string
    {
        return $this->password;
    }

    public function getRoles(): array
    {
        return $this->owner ? ['ROLE_OWNER', 'ROLE_USER'] : ['ROLE_USER'];
    }

    public function eraseCredentials(): void
    {
    }

    public function getUserIdentifier(): string
    {
        return '' === $this->login ? throw new \LogicException('A user has a sign-in name.') : $this->login;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
