<?php

declare(strict_types=1);

namespace App\TakeAway;

use App\Study\InStudy;
use App\Study\Study;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** A model as it was handed out, with its proof. */
#[ORM\Entity]
class TakenAway implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param string               $form  one of the core's forms
     * @param string               $bytes deflated, in base64
     * @param int                  $size  of the file
     * @param array<string, mixed> $proof
     * @param bool                 $draft whether nobody had approved the trial
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Trial $trial,
        #[ORM\Column(length: 40)]
        private string $form,
        #[ORM\Column(type: Types::TEXT)]
        private string $bytes,
        #[ORM\Column]
        private int $size,
        #[ORM\Column(type: Types::JSON)]
        private array $proof,
        #[ORM\Column]
        private bool $draft,
        #[ORM\Column(length: 120)]
        private string $takenBy,
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

    public function trial(): Trial
    {
        return $this->trial;
    }

    public function form(): string
    {
        return $this->form;
    }

    public function bytes(): string
    {
        return (string) gzinflate((string) base64_decode($this->bytes, true));
    }

    public function size(): int
    {
        return $this->size;
    }

    /** @return array<string, mixed> */
    public function proof(): array
    {
        return $this->proof;
    }

    public function isDraft(): bool
    {
        return $this->draft;
    }

    public function takenBy(): string
    {
        return $this->takenBy;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
