<?php

declare(strict_types=1);

namespace App\Job;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** A part of a job that one worker does in one go. It is also the queue: a claim is a lease on this row. */
#[ORM\Entity]
#[ORM\Table(name: 'job_piece')]
#[ORM\Index(columns: ['lane', 'state', 'id'])]
#[ORM\UniqueConstraint(columns: ['job_id', 'piece_key'])]
class Piece
{
    /** The piece that puts the results of the others together. */
    public const JOIN = 'join';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    private string $state = Job::WAITING;

    #[ORM\Column]
    private int $attempts = 0;

    #[ORM\Column(type: Types::FLOAT)]
    private float $share = 0.0;

    #[ORM\Column(type: Types::FLOAT, nullable: true)]
    private ?float $leaseUntil = null;

    #[ORM\Column(type: Types::FLOAT, nullable: true)]
    private ?float $waitingSince;

    #[ORM\Column(length: 80, nullable: true)]
    private ?string $worker = null;

    /** @param array<string, mixed> $payload */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Job $job,
        #[ORM\Column(name: 'piece_key', length: 40)]
        private string $key,
        #[ORM\Column(length: 10)]
        private string $lane,
        #[ORM\Column(type: Types::JSON)]
        private array $payload = [],
    ) {
        $this->waitingSince = microtime(true);
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function job(): Job
    {
        return $this->job;
    }

    public function key(): string
    {
        return $this->key;
    }

    public function lane(): string
    {
        return $this->lane;
    }

    /** @return array<string, mixed> */
    public function payload(): array
    {
        return $this->payload;
    }

    public function state(): string
    {
        return $this->state;
    }

    public function attempts(): int
    {
        return $this->attempts;
    }

    public function share(): float
    {
        return $this->share;
    }

    public function leaseUntil(): ?float
    {
        return $this->leaseUntil;
    }

    /** Seconds since 1970 when it was put in, or handed out again. */
    public function waitingSince(): ?float
    {
        return $this->waitingSince;
    }

    public function worker(): ?string
    {
        return $this->worker;
    }
}
