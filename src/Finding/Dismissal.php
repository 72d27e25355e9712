<?php

declare(strict_types=1);

namespace App\Finding;

use App\Account\User;
use App\Table\DataTable;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** A finding that somebody settled with a reason. It stays settled as long as the same thing is found. */
#[ORM\Entity]
#[ORM\Table(name: 'finding_dismissal')]
#[ORM\UniqueConstraint(columns: ['table_id', 'finding_key'])]
class Dismissal
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $at;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'table_id', nullable: false, onDelete: 'CASCADE')]
        private DataTable $table,
        #[ORM\Column(name: 'finding_key', length: 600)]
        private string $key,
        #[ORM\Column(length: 300)]
        private string $reason,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
        private ?User $user,
    ) {
        $this->at = new \DateTimeImmutable();
    }

    public function id(): ?int
    {
        return $this->id;
    }

    public function table(): DataTable
    {
        return $this->table;
    }

    public function key(): string
    {
        return $this->key;
    }

    public function reason(): string
    {
        return $this->reason;
    }

    public function who(): string
    {
        return $this->user?->name() ?? 'somebody';
    }

    public function at(): \DateTimeImmutable
    {
        return $this->at;
    }
}
