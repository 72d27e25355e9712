<?php

declare(strict_types=1);

namespace App\Approval;

use App\Account\User;
use App\Study\InStudy;
use App\Study\Study;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/**
 * That a named person let a trial be used, on which evidence, within which limits. It is never changed: withdrawing it adds to it, and so
 * does a later day to look again.
 */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['study_id', 'number'])]
class Approval implements InStudy
{
    /** What a record does that lacks a column the model asks for, or has one it does not know: it is not answered ... */
    public const REFUSE = 'refuse';
    /** ... or it is, with low confidence. */
    public const LOW = 'answer with low confidence';
    public const RULES = [self::REFUSE, self::LOW];

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE, nullable: true)]
    private ?\DateTimeImmutable $withdrawnAt = null;

    #[ORM\Column(length: 1000, options: ['default' => ''])]
    private string $withdrawnWhy = '';

    #[ORM\Column(length: 120, options: ['default' => ''])]
    private string $withdrawnBy = '';

    /**
     * @var list<array{again: string, at: string, by: string, verdict: string}>|null later days to look again, each with the recheck it
     *                                                                               stands on
     */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $later = null;

    /**
     * @param int                  $number   of the study's approvals, from 1
     * @param string               $by       the name of who approved
     * @param string               $sentence why it may be used
     * @param string               $limits   what it is not to be used for
     * @param string               $rule     for unknown and missing columns: one of RULES
     * @param array<string, mixed> $evidence figures, seal, split, preparation, fingerprints, finalists, as they were
     * @param array<string, mixed> $model    what answers, as it was
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
        private ?User $user,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
        private ?Trial $trial,
        #[ORM\Column]
        private int $number,
        #[ORM\Column(name: 'approved_by', length: 120)]
        private string $by,
        #[ORM\Column(length: 1000)]
        private string $sentence,
        #[ORM\Column(name: 'usage_limits', length: 2000)]
        private string $limits,
        #[ORM\Column(type: Types::DATE_IMMUTABLE)]
        private \DateTimeImmutable $again,
        #[ORM\Column(name: 'beyond_rule', length: 40)]
        private string $rule,
        #[ORM\Column]
        private float $cutoff,
        #[ORM\Column(type: Types::JSON)]
        private array $evidence,
        #[ORM\Column(type: Types::JSON)]
        private array $model,
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

    public function trial(): ?Trial
    {
        return $this->trial;
    }

    public function user(): ?User
    {
        return $this->user;
    }

    public function number(): int
    {
        return $this->number;
    }

    public function by(): string
    {
        return $this->by;
    }

    public function sentence(): string
    {
        return $this->sentence;
    }

    public function limits(): string
    {
        return $this->limits;
    }

    /** The day to look again: the last one that was set. */
    public function again(): \DateTimeImmutable
    {
        $last = $this->later()[\count($this->later()) - 1] ?? null;

        return null === $last ? $this->again : new \DateTimeImmutable($last['again']);
    }

    /** @return list<array{again: string, at: string, by: string, verdict: string}> later days, the first set first */
    public function later(): array
    {
        return $this->later ?? [];
    }

    /** @param string $verdict of the recheck that it stands on */
    public function lookLater(\DateTimeImmutable $again, string $by, string $verdict): void
    {
        $this->later = [...$this->later(), [
            'again' => $again->format('Y-m-d'),
            'at' => (new \DateTimeImmutable())->format(\DATE_ATOM),
            'by' => $by,
            'verdict' => $verdict,
        ]];
    }

    public function rule(): string
    {
        return $this->rule;
    }

    /** The chance from which on an event is called. */
    public function cutoff(): float
    {
        return $this->cutoff;
    }

    /** @return array<string, mixed> */
    public function evidence(): array
    {
        return $this->evidence;
    }

    /** @return array<string, mixed> */
    public function model(): array
    {
        return $this->model;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }

    public function isInForce(): bool
    {
        return null === $this->withdrawnAt;
    }

    /** @return array{at: string, by: string, why: string}|null */
    public function withdrawn(): ?array
    {
        return null === $this->withdrawnAt ? null : [
            'at' => $this->withdrawnAt->format(\DATE_ATOM),
            'by' => $this->withdrawnBy,
            'why' => $this->withdrawnWhy,
        ];
    }

    public function withdraw(string $by, string $why): void
    {
        if (null !== $this->withdrawnAt) {
            throw new \LogicException('It is withdrawn already.');
        }
        $this->withdrawnAt = new \DateTimeImmutable();
        $this->withdrawnBy = $by;
        $this->withdrawnWhy = $why;
    }
}
