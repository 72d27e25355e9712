<?php

declare(strict_types=1);

namespace App\Service;

use App\Approval\Approval;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** An approved model that a service answers with, or could. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['service_id', 'number'])]
class ServiceVersion
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param int                       $number  that of the approval
     * @param string                    $package as Package writes it
     * @param array<array-key, ?string> $example a real record, as it came
     */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Service $service,
        #[ORM\Column]
        private int $number,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Approval $approval,
        #[ORM\Column(type: Types::TEXT)]
        private string $package,
        #[ORM\Column(type: Types::JSON)]
        private array $example,
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

    public function number(): int
    {
        return $this->number;
    }

    public function approval(): Approval
    {
        return $this->approval;
    }

    public function package(): string
    {
        return $this->package;
    }

    /** @return array<array-key, ?string> */
    public function example(): array
    {
        return $this->example;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }
}
