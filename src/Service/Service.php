<?php

declare(strict_types=1);

namespace App\Service;

use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** An address at which an approved model answers. Which version does is one cell of one row. */
#[ORM\Entity]
class Service implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(nullable: true)]
    private ?int $version = null;

    #[ORM\Column(options: ['default' => false])]
    private bool $paused = false;

    #[ORM\Column(options: ['default' => 0])]
    private int $keepDays = 0;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column(length: 60, unique: true)]
        private string $name,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function name(): string
    {
        return $this->name;
    }

    /** Which answers; null before the first. */
    public function version(): ?int
    {
        return $this->version;
    }

    public function switchTo(?int $version): void
    {
        $this->version = $version;
    }

    public function isPaused(): bool
    {
        return $this->paused;
    }

    public function pause(bool $paused): void
    {
        $this->paused = $paused;
    }

    /** For how many days what callers send is kept; 0 = not at all. */
    public function keepDays(): int
    {
        return $this->keepDays;
    }

    public function keep(int $days): void
    {
        $this->keepDays = $days;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
