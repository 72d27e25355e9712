<?php

declare(strict_types=1);

namespace App\Decision;

use App\Score\Scoring;
use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** Rules over a scored table; several stand side by side, and none changes it. */
#[ORM\Entity]
class Decision implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Version, ORM\Column(type: 'integer')]
    private int $version = 1;

    /** @var array<string, mixed> */
    #[ORM\Column(type: Types::JSON)]
    private array $terms;

    /** @var array<string, mixed>|null what a later table showed of the effect */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $measured = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Scoring $scoring,
        #[ORM\Column(length: 120)]
        private string $name,
        DecisionTerms $terms,
    ) {
        $this->terms = $terms->toArray();
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function version(): int
    {
        return $this->version;
    }

    public function study(): Study
    {
        return $this->scoring->study();
    }

    public function scoring(): Scoring
    {
        return $this->scoring;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function terms(): DecisionTerms
    {
        return DecisionTerms::fromArray($this->terms);
    }

    public function change(string $name, DecisionTerms $terms): void
    {
        $this->name = $name;
        $this->terms = $terms->toArray();
    }

    /** @return array<string, mixed>|null */
    public function measured(): ?array
    {
        return $this->measured;
    }

    /** @param array<string, mixed> $measured */
    public function keepMeasured(array $measured): void
    {
        $this->measured = $measured;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
