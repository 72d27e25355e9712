<?php

declare(strict_types=1);

namespace App\Job;

use App\Account\User;
use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** Long work, cut into pieces that workers take. */
#[ORM\Entity]
#[ORM\Index(columns: ['state'])]
class Job implements InStudy
{
    public const WAITING = 'waiting';
    public const RUNNING = 'running';
    public const DONE = 'done';
    public const FAILED = 'failed';
    public const CANCELLED = 'cancelled';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    private string $state = self::WAITING;

    #[ORM\Column(length: 400, nullable: true)]
    private ?string $message = null;

    #[ORM\Column]
    private bool $cancelRequested = false;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    #[ORM\Column(type: Types::FLOAT, nullable: true)]
    private ?float $startedAt = null;

    #[ORM\Column(type: Types::FLOAT, nullable: true)]
    private ?float $endedAt = null;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private User $user,
        #[ORM\Column(length: 20)]
        private string $kind,
        #[ORM\Column]
        private int $subject,
        #[ORM\Column(length: 200)]
        private string $title,
        #[ORM\Column]
        private int $pieces,
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

    public function user(): User
    {
        return $this->user;
    }

    public function kind(): string
    {
        return $this->kind;
    }

    /** The id of what the work is about: a table, a trial, a batch. */
    public function subject(): int
    {
        return $this->subject;
    }

    public function title(): string
    {
        return $this->title;
    }

    public function pieces(): int
    {
        return $this->pieces;
    }

    public function state(): string
    {
        return $this->state;
    }

    public function message(): ?string
    {
        return $this->message;
    }

    public function isOver(): bool
    {
        return \in_array($this->state, [self::DONE, self::FAILED, self::CANCELLED], true);
    }

    public function isCancelRequested(): bool
    {
        return $this->cancelRequested;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }

    public function startedAt(): ?float
    {
        return $this->startedAt;
    }

    public function endedAt(): ?float
    {
        return $this->endedAt;
    }
}
